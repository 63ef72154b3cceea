import { useEffect, useRef, useState } from "react";
import { isRouteErrorResponse, type ShouldRevalidateFunctionArgs, useActionData, useNavigation } from "react-router";
import { newId } from "./jobs/entry";

/** What a form that could not be sent comes back as: nothing was changed, and what was typed stays where it is. */
interface Unsent {
  unsent: string;
  /** Which of a page's forms it was; empty where a page has one. */
  intent: string;
  errors: Record<string, string>;
  typed: Record<string, string>;
}

const LINE_DOWN = "Not sent: the line is down. What you typed is still here; send it again once the line is back.";
const SERVER_BUSY = "Not sent: the server could not take it just now. What you typed is still here; send it again.";

/** Sends a form; where the line or the server fails, the page stays as it is and says so in place. @param request of a page with several forms: the form itself */
export async function sentOrKept<T>(serverAction: () => Promise<T>, request?: Request): Promise<T | Unsent> {
  const intent = String((await request?.clone().formData())?.get("intent") ?? "");
  try {
    return await serverAction();
  } catch (error) {
    // A redirect is thrown as well; what the server refused in words is for the page of errors.
    if (error instanceof Response || (isRouteErrorResponse(error) && error.status < 500)) throw error;
    return { unsent: isRouteErrorResponse(error) ? SERVER_BUSY : LINE_DOWN, intent, errors: {}, typed: {} };
  }
}

const isUnsent = (data: unknown): data is Unsent => typeof data === "object" && data !== null && "unsent" in data;

/**
 * What could not be sent, or was refused, has changed nothing: nothing is asked for anew, which with the line down would fail as well,
 * and which the next press of the button would only cut off.
 */
export function needsNews({ actionResult, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean {
  return changedNothing(actionResult) ? false : defaultShouldRevalidate;
}

/** True for the answers by which our actions say that they did nothing: errors by field, or a form to be put right. */
function changedNothing(answer: unknown): boolean {
  if (typeof answer !== "object" || answer === null) return false;
  return "errors" in answer || "problems" in answer || ("status" in answer && answer.status === "error");
}

/**
 * Says in a form that it could not be sent, where the eye is: a long form may have been scrolled. @param of the form's intent, on a page
 * with several. What was sent is told by the answer itself: a page may never be drawn between a press and the answer to it.
 */
export function NotSent({ of }: { of?: string }) {
  const data = useActionData<unknown>();
  const says = useRef<HTMLParagraphElement>(null);
  const unsent = isUnsent(data) && (of === undefined || data.intent === of) ? data.unsent : undefined;
  const again = useNavigation().formData;
  useEffect(() => {
    if (isUnsent(data)) says.current?.scrollIntoView({ block: "center" });
  }, [data]);
  return unsent ? (
    <p role="alert" className="rule-left m-0" ref={says}>
      {again !== undefined && (of === undefined || again.get("intent") === of) ? "Being sent again…" : unsent}
    </p>
  ) : null;
}

/** The number of a form, one for each time that it is filled in: sent twice, it does one thing. */
export function FormId() {
  const [id] = useState(newId);
  return <input type="hidden" name="formId" value={id} suppressHydrationWarning />;
}
