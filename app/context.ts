import { createContext } from "react-router";
import type { Office } from "../server/office";
import type { Store } from "../store/store";

/** What the server hands to every loader and action. */
export const storeContext = createContext<Store>();

/** The drawing office, which the pages ask for a machine's charts. */
export const officeContext = createContext<Office>();

/** The nonce that this answer's scripts carry under the content security policy. */
export const nonceContext = createContext<string>("");
