import { PassThrough } from "node:stream";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, type RouterContextProvider, ServerRouter } from "react-router";
import { nonceContext, storeContext } from "./context";
import { NonceContext } from "./nonce";

/** How long a page may take to stream before it is cut off. */
export const streamTimeout = 5000;

/** What a page came upon: damage to the database is remembered, and stops every page until a backup is restored. */
export function handleError(error: unknown, { context, request }: { context: Readonly<RouterContextProvider>; request: Request }): void {
  if (request.signal.aborted) return;
  context.get(storeContext).noticed(error);
  console.error(error);
}

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  entry: EntryContext,
  context: RouterContextProvider,
): Promise<Response> {
  const nonce = context.get(nonceContext);
  return new Promise((resolve, reject) => {
    let code = status;
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={nonce}>
        <ServerRouter context={entry} url={request.url} nonce={nonce} />
      </NonceContext>,
      {
        nonce,
        // Nothing on these pages streams, so the page goes out whole: one write instead of many small ones.
        onAllReady() {
          const chunks: Buffer[] = [];
          const body = new PassThrough();
          body.on("data", (chunk: Buffer) => chunks.push(chunk));
          body.on("end", () => resolve(new Response(Buffer.concat(chunks), { headers, status: code })));
          headers.set("Content-Type", "text/html; charset=utf-8");
          pipe(body);
        },
        onShellError: reject,
        onError() {
          code = 500;
        },
      },
    );
    setTimeout(abort, streamTimeout + 1000).unref();
  });
}
