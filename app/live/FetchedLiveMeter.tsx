import { type ComponentProps, lazy, Suspense } from "react";
import type { LiveMeter } from "./LiveMeter";

/** Fetched only by shops with a meter that speaks; where it does not come, figures are typed. */
const Fetched = lazy(() =>
  import("./LiveMeter").then(
    ({ LiveMeter: live }) => ({ default: live }),
    () => ({ default: Missing }),
  ),
);

function Missing() {
  return (
    <p role="status" className="rule-left m-0">
      The live meter could not be fetched. Type the figures; once the server is back, load the page anew.
    </p>
  );
}

/** The live meter of a shop that has one; nothing where there is none. */
export function FetchedLiveMeter(props: ComponentProps<typeof LiveMeter>) {
  if (props.instruments.length === 0) return null;
  return (
    <Suspense fallback={null}>
      <Fetched {...props} />
    </Suspense>
  );
}
