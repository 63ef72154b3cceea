import { Repeat } from "lucide-react";
import { Link } from "react-router";

/** Shown on the bench beside a step that has a page of its own for going on and on with it: the way there. */
export function ToLoop({ to, says }: { to: string; says: string }) {
  return (
    <p className="m-0">
      <Link to={to} className="text-petrol inline-flex min-h-11 items-center gap-2">
        <Repeat size={17} aria-hidden="true" /> {says}
      </Link>
    </p>
  );
}
