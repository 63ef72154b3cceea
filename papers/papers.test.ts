import { inflateSync } from "node:zlib";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { seedDemo } from "../demo/workshop";
import type { Store } from "../store/store";
import { openStore } from "../tests/support/store";
import { labelOf, logOf, reportOf } from "./gather";
import { printed } from "./paper";

const NOW = new Date("2026-06-01T12:00:00.000Z");
let store: Store;
beforeAll(() => {
  store = openStore();
  seedDemo(store, NOW);
});

const proven = (): number => store.records.look({ unitTag: "SK-206", ending: "proven" }, 1, 0).lines[0]?.jobId as number;

/** What stands in a PDF outside and inside its packed streams. */
function contents(bytes: Uint8Array): string {
  const plain = Buffer.from(bytes).toString("latin1");
  let unpacked = "";
  for (const match of plain.matchAll(/\/FlateDecode[\s\S]*?stream\r?\n/g)) {
    const from = (match.index ?? 0) + match[0].length;
    const to = plain.indexOf("endstream", from);
    try {
      unpacked += inflateSync(Buffer.from(plain.slice(from, to), "latin1")).toString("latin1");
    } catch {
      // Fonts and the like are packed otherwise; their streams say nothing here.
    }
  }
  return `${plain}\n${unpacked}`;
}

describe("papers", () => {
  test("a work report is tagged for reading aloud, in its language, with its letters embedded and its drawing as vectors", async () => {
    const bytes = await reportOf(store, proven(), NOW);
    if (!bytes) throw new Error("no report");
    const text = contents(bytes);
    expect(text.startsWith("%PDF-1.7")).toBe(true);
    expect(text).toMatch(/\/Marked true/);
    expect(text).toMatch(/\/Lang \(en-GB\)/);
    for (const tag of ["Document", "H1", "H2", "P", "Table", "TR", "TH", "TD", "Figure"]) expect(text).toContain(`/S /${tag}`);
    expect(text).toMatch(/\/Alt \(The charging circuit of the Brannoch Corrie 600/);
    expect(text).toMatch(/\/FontFile2/);
    expect(text).not.toMatch(/\/Subtype \/Image/);
    expect(text).toMatch(/BarlowSemiCondensed/);
  });

  test("it has the customer's page and the numbers; a job with more readings has more pages", async () => {
    const pages = async (id: number): Promise<number> => [...contents((await reportOf(store, id, NOW)) as Uint8Array).matchAll(/\/Type \/Page\b/g)].length;
    expect(await pages(proven())).toBeGreaterThanOrEqual(2);
    const service = store.records.look({ unitTag: "SK-305" }, 1, 0).lines[0]?.jobId as number;
    expect(await pages(service)).toBe(2);
  });

  test("every job on the rail has its report, whatever state it is in", async () => {
    for (const { jobId } of store.records.look({ ending: "open" }, 100, 0).lines) expect((await reportOf(store, jobId, NOW))?.length).toBeGreaterThan(10_000);
  });

  test("a part's label is one small page", async () => {
    const id = store.jobs.listOpen(1, 0)[0]?.id as number;
    store.jobs.wait(id, "wait-label", { what: "part", note: "stator, left cover gasket", until: "2026-06-04T09:00:00.000Z", beganAt: NOW.toISOString() });
    const text = contents((await labelOf(store, id)) as Uint8Array);
    expect([...text.matchAll(/\/Type \/Page\b/g)]).toHaveLength(1);
    expect(text).toMatch(/\/MediaBox \[0 0 255\.\d+ 141\.\d+\]/);
  });

  test("a machine's log is a paper; one that was never in is one as well", async () => {
    expect(contents((await logOf(store, "SK-305", NOW)) as Uint8Array)).toContain("/S /Figure");
    store.workshop.addUnit({ tag: "N-1", nickname: "New", sheetId: "corvane-ferrel-650", usedFor: "" });
    expect(await logOf(store, "N-1", NOW)).toBeDefined();
  });

  test("what is not there has no paper", async () => {
    expect(await reportOf(store, 99_999, NOW)).toBeUndefined();
    expect(await labelOf(store, 99_999)).toBeUndefined();
    expect(await logOf(store, "nobody", NOW)).toBeUndefined();
  });

  test("a drawing loses what belongs to the page and keeps what it shows", () => {
    const svg = printed('<svg role="img" aria-label="x"><text class="num">1 Ω → 2</text><path stroke="var(--plum)" fill="var(--unheard-of)"/></svg>');
    expect(svg).toBe('<svg><text stroke="none" fill="#17211e" font-family="mono">1 \u2126 to 2</text><path stroke="#7b1d4a" fill="#000000"/></svg>');
  });
});
