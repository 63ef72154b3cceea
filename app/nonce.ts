import { createContext, useContext } from "react";

/** The nonce for inline scripts; empty in the browser, where the attribute is hidden anyway. */
export const NonceContext = createContext("");

export function useNonce(): string | undefined {
  return useContext(NonceContext) || undefined;
}
