import type { Instrument } from "../../store/instruments";

/** An instrument of a shop that says of itself what it has to and no more. */
export function instrumentNamed(name: string, over: Partial<Omit<Instrument, "id" | "name">> = {}): Omit<Instrument, "id"> {
  return { name, language: "scpi", host: "127.0.0.1", port: 5025, jack: null, leadOhms: null, ohmsResolution: null, secondMeter: false, ...over };
}
