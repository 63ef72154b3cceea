import { format, formatDistanceToNow } from "date-fns";
import { Form } from "react-router";
import { errorProps, Field } from "../ui/forms";

const PERIODS = [
  { name: "days", label: "Days" },
  { name: "weeks", label: "Weeks" },
  { name: "months", label: "Months" },
] as const;

/** How many of the newest are listed. */
const LISTED = 8;

interface BackupsProps {
  /** Why somebody should look after them. */
  missed: string | undefined;
  backups: readonly { name: string; at: string; bytes: number; byHand: boolean }[];
  rule: Record<(typeof PERIODS)[number]["name"], number>;
  errors: Record<string, string> | undefined;
  typed: Record<string, string>;
  busy: boolean;
}

/** The shop's backups: the rule by which they are made and kept, one more at once, and the newest to take away. */
export function Backups({ missed, backups, rule, errors = {}, typed, busy }: BackupsProps) {
  return (
    <section>
      <h2 className="mt-6">Backups</h2>
      {missed ? (
        <p role="alert" className="rule-left my-2">
          {missed}
        </p>
      ) : null}
      {backups[0] ? (
        <p className="m-0" suppressHydrationWarning>
          The last good one was made {formatDistanceToNow(backups[0].at, { addSuffix: true })}.
        </p>
      ) : null}
      <p className="text-mute m-0">
        {rule.days > 0 ? "Made once a day while Uvrel runs, looked through, and kept beside the database." : "None is made by itself."} Take one away now and
        then: what lies on the same disk goes with it.
      </p>
      <Form method="post" className="mt-2 grid grid-cols-3 items-start gap-3" preventScrollReset>
        {PERIODS.map(({ name, label }) => (
          <Field key={name} label={`${label} kept`} id={`backup-${name}`} error={errors[name]}>
            <input
              name={name}
              inputMode="numeric"
              className="field num"
              defaultValue={typed[name] ?? rule[name]}
              {...errorProps(`backup-${name}`, errors[name])}
            />
          </Field>
        ))}
        <button type="submit" name="intent" value="backup-rule" className="btn col-span-full justify-self-start" disabled={busy}>
          Keep this rule
        </button>
      </Form>
      <Form method="post" className="mt-3" preventScrollReset>
        <button type="submit" name="intent" value="backup-now" className="btn" disabled={busy}>
          Back up now
        </button>
        {errors.backup ? (
          <p role="alert" className="rule-left mt-2 mb-0">
            {errors.backup}
          </p>
        ) : null}
      </Form>
      {backups.length === 0 ? <p className="text-mute">There is none yet.</p> : null}
      <ul className="m-0 mt-2 list-none p-0">
        {backups.slice(0, LISTED).map(({ name, at, bytes, byHand }) => (
          <li key={name} className="border-hair flex flex-wrap items-baseline gap-x-4 border-t py-2">
            <a href={`/backups/${name}`} download className="text-petrol underline" suppressHydrationWarning>
              {format(at, "d MMMM yyyy, HH:mm")}
            </a>
            <span className="text-mute num">{(bytes / 1e6).toFixed(1)} MB</span>
            {byHand ? <span className="text-mute">by hand, kept until somebody takes it away</span> : null}
          </li>
        ))}
      </ul>
      {backups.length > LISTED ? <p className="text-mute m-0">and {backups.length - LISTED} older</p> : null}
    </section>
  );
}
