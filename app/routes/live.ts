import { LIVE_DIALS, type LiveDial } from "../../core/meter/settle";
import { instrumentsContext, storeContext } from "../context";
import { formOf } from "../forms.server";
import type { Route } from "./+types/live";

/** A page that listens no more is noticed at the latest when nothing can be written to it, ms. */
const STILL_THERE = 15_000;

function instrumentOf(context: Route.LoaderArgs["context"], id: string) {
  const instrument = /^\d{1,9}$/.test(id) ? context.get(storeContext).instruments.find(Number(id)) : undefined;
  if (!instrument) throw new Response("There is no such instrument. The shop's page has those that there are.", { status: 404 });
  return instrument;
}

/** What an instrument shows, as it shows it: server-sent events of figures, and of why there are none. */
export function loader({ context, params, request }: Route.LoaderArgs): Response {
  const instrument = instrumentOf(context, params.id);
  const dial = new URL(request.url).searchParams.get("dial");
  if (!LIVE_DIALS.includes(dial as LiveDial)) throw new Response(`The dial must be one of ${LIVE_DIALS.join(", ")}.`, { status: 400 });
  const { listen } = context.get(instrumentsContext);
  const encoder = new TextEncoder();
  let hangUp = (): void => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string): void => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          hangUp();
        }
      };
      const stop = listen(instrument, dial as LiveDial, (heard) => send(`data: ${JSON.stringify(heard)}\n\n`));
      const beat = setInterval(() => send(": still there\n\n"), STILL_THERE);
      hangUp = () => {
        clearInterval(beat);
        stop();
      };
      request.signal.addEventListener("abort", () => hangUp());
      send(": listening\n\n");
    },
    cancel: () => hangUp(),
  });
  // Neither kept nor compressed: a figure that waits for its packet to fill comes too late.
  return new Response(body, { headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" } });
}

/** Moves the hands of a stand-in: to a test's points, or with the rig. */
export async function action({ context, params, request }: Route.ActionArgs): Promise<Response> {
  const instrument = instrumentOf(context, params.id);
  const form = await formOf(request);
  const [step, stand, sheet] = ["step", "stand", "sheet"].map((name) => String(form.get(name) ?? ""));
  const to = step ? { step } : { stand: stand ?? "", sheet: sheet ?? "" };
  // Nothing that could end a command and begin another.
  if (!/^[\w.~>+:=, -]{3,900}$/.test(step || (stand ?? ""))) return new Response("That is nowhere for hands to go.", { status: 422 });
  try {
    await context.get(instrumentsContext).hands(instrument, to);
    return new Response(null, { status: 204 });
  } catch (error) {
    return new Response(error instanceof Error ? error.message : "The stand-in does not answer.", { status: 502 });
  }
}
