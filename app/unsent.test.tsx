import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";
import { NotSent, sentOrKept } from "./unsent";

const lineDown = (): Promise<never> => Promise.reject(new TypeError("Failed to fetch"));
const formOf = (intent: string): Request =>
  new Request("http://localhost/jobs/1/verdict", { method: "POST", body: new URLSearchParams({ intent, done: "Unit renewed." }) });

/** What each of a page's forms says after an answer. */
function said(answer: unknown): string[] {
  return ["repair", "close"].map((form) => {
    const router = createMemoryRouter([{ id: "page", path: "/", element: <NotSent of={form} /> }], {
      hydrationData: { loaderData: {}, actionData: { page: answer } },
    });
    return renderToStaticMarkup(<RouterProvider router={router} />).replace(/<[^>]+>/g, "");
  });
}

describe("a form that could not be sent", () => {
  test("says so itself, and no other form of its page; the form is still whole for whoever sends it", async () => {
    const request = formOf("close");
    const answer = await sentOrKept(lineDown, request);
    expect(said(answer)).toEqual(["", expect.stringMatching(/^Not sent: the line is down/)]);
    expect((await request.formData()).get("done")).toBe("Unit renewed.");
  });

  test("sent once more it says so in the same place, while no other form is", async () => {
    const unsent = await sentOrKept(lineDown, formOf("repair"));
    for (const [sent, says] of [
      ["repair", "Being sent again…"],
      ["close", (unsent as { unsent: string }).unsent],
    ] as const) {
      const router = createMemoryRouter([{ id: "page", path: "/", element: <NotSent of="repair" />, action: () => new Promise(() => undefined) }], {
        hydrationData: { loaderData: {}, actionData: { page: unsent } },
      });
      const formData = new FormData();
      formData.set("intent", sent);
      void router.navigate("/", { formMethod: "post", formData });
      expect(router.state.navigation.state).toBe("submitting");
      expect(renderToStaticMarkup(<RouterProvider router={router} />)).toContain(says);
      router.dispose();
    }
  });

  test("what came back from the server is no failure of the line", async () => {
    expect(await sentOrKept(() => Promise.resolve({ kept: true }), formOf("repair"))).toEqual({ kept: true });
    expect(said({ errors: { done: "Say what was done." } })).toEqual(["", ""]);
    await expect(sentOrKept(() => Promise.reject(new Response(null, { status: 302 })), formOf("repair"))).rejects.toBeInstanceOf(Response);
  });
});
