import type { Find } from "../../store/finds";

/** Something found, and the page that it leads to. */
export interface Found extends Find {
  to: string;
}
