/** The themes on offer; `system` follows the device. */
export const THEMES = ["system", "light", "dark"] as const;

export type Theme = (typeof THEMES)[number];

/** The theme a browser asked for in its cookie. */
export function themeOf(request: Request): Theme {
  const wanted = /(?:^|;\s*)theme=(\w+)/.exec(request.headers.get("cookie") ?? "")?.[1];
  return THEMES.find((theme) => theme === wanted) ?? "system";
}
