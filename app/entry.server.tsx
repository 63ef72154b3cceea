import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, type RouterContextProvider, ServerRouter } from "react-router";
import { nonceContext } from "./context";
import { NonceContext } from "./nonce";

/** How long a page may take to stream before it is cut off. */
export const streamTimeout = 5000;

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
    const ready = isbot(request.headers.get("user-agent")) || entry.isSpaMode ? "onAllReady" : "onShellReady";
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={nonce}>
        <ServerRouter context={entry} url={request.url} nonce={nonce} />
      </NonceContext>,
      {
        nonce,
        [ready]() {
          const body = new PassThrough();
          headers.set("Content-Type", "text/html");
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status: code }));
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
