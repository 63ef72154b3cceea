import type { Sheet } from "../../core/machine/sheet";
import { layReady } from "../../core/procedure/layReady";
import type { ToolId } from "../../core/procedure/tools";

/** What to lay ready, before the first reading. */
export function LayReady({ sheet, tools }: { sheet: Sheet; tools: readonly ToolId[] }) {
  return (
    <details className="mb-3">
      <summary className="text-petrol min-h-9 cursor-pointer">Lay ready first</summary>
      <ul className="m-0 list-disc pl-5 text-[0.95rem]">
        {layReady(sheet, tools).map((tool) => (
          <li key={tool}>{tool}</li>
        ))}
      </ul>
    </details>
  );
}
