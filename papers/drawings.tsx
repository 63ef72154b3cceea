import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";

/** A drawing of the screen as text; its links lead nowhere on paper. */
export function drawn(element: React.ReactElement): string {
  const router = createMemoryRouter([{ path: "*", element }]);
  const markup = renderToStaticMarkup(createElement(RouterProvider, { router }));
  const from = markup.indexOf("<svg");
  return markup.slice(from, markup.lastIndexOf("</svg>") + 6);
}
