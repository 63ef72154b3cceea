/** Wire colours as sheets name them: a base colour, and a tracer stripe on some wires. */
export const WIRE_COLOURS = ["black", "white", "red", "green", "yellow", "blue", "brown", "orange", "grey", "violet", "pink"] as const;

type WireColour = (typeof WIRE_COLOURS)[number];

/** One wire's insulation: base colour and, where there is one, its tracer. */
export interface Wire {
  base: WireColour;
  tracer?: WireColour | undefined;
}

/** Names a wire the workshop way: "yellow", "white with black tracer". */
export function wireName(wire: Wire): string {
  return wire.tracer ? `${wire.base} with ${wire.tracer} tracer` : wire.base;
}
