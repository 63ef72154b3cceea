import { Link } from "react-router";

/** A page that says what happened, what is kept, and what to do. */
export function Trouble({ title, says, detail }: { title: string; says: string; detail?: string | undefined }) {
  return (
    <main className="mx-auto max-w-2xl px-5 py-16">
      <svg viewBox="0 0 400 60" className="mb-8 w-full" aria-hidden="true">
        <path d="M0 30H170M230 30H400" stroke="var(--ink)" strokeWidth="5" />
        <circle cx="176" cy="30" r="8" fill="var(--sheet)" stroke="var(--copper)" strokeWidth="3" />
        <circle cx="224" cy="30" r="8" fill="var(--sheet)" stroke="var(--copper)" strokeWidth="3" />
        <path d="M186 30h28" stroke="var(--copper)" strokeDasharray="3 6" strokeWidth="2" />
      </svg>
      <h1 className="mb-3">{title}</h1>
      <p className="mb-6 text-lg">{says}</p>
      {detail ? <p className="text-mute mb-6 font-mono text-sm break-words">{detail}</p> : null}
      <Link to="/" className="btn btn-main">
        To the rail
      </Link>
    </main>
  );
}
