import { createContext } from "react-router";
import type { Store } from "../store/store";

/** What the server hands to every loader and action. */
export const storeContext = createContext<Store>();

/** The nonce that this answer's scripts carry under the content security policy. */
export const nonceContext = createContext<string>("");
