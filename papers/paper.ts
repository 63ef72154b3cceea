import { createRequire } from "node:module";
import PDFDocument from "pdfkit";
import SVGtoPDF from "svg-to-pdfkit";

/** A paper: A4 pages of headings, sentences, tables and drawings, with its letters embedded and its parts tagged for reading aloud (PDF/UA). */

const require = createRequire(import.meta.url);
const FONTS = {
  sans: "@expo-google-fonts/barlow-semi-condensed/400Regular/BarlowSemiCondensed_400Regular.ttf",
  strong: "@expo-google-fonts/barlow-semi-condensed/600SemiBold/BarlowSemiCondensed_600SemiBold.ttf",
  mono: "@expo-google-fonts/spline-sans-mono/400Regular/SplineSansMono_400Regular.ttf",
} as const;

/** The inks of the drawing sheet by day, as the screen has them; the ground of a paper is its own. */
const INKS: Record<string, string> = {
  paper: "#ffffff",
  sheet: "#ffffff",
  ink: "#17211e",
  mute: "#4c5953",
  hair: "#b0bbb0",
  copper: "#8f4012",
  petrol: "#0a5558",
  plum: "#7b1d4a",
  "wire-black": "#2b2f2e",
  "wire-white": "#ffffff",
  "wire-red": "#b3261e",
  "wire-green": "#2f6b3a",
  "wire-yellow": "#c9a20c",
  "wire-blue": "#2b5fa8",
  "wire-brown": "#77502f",
  "wire-orange": "#cf6d17",
  "wire-grey": "#8a918d",
  "wire-violet": "#6d4a9c",
  "wire-pink": "#d77f9c",
};

const MARGIN = 48;
const SIZES = { H1: 20, H2: 12, P: 10.5, lead: 14, small: 9 } as const;

/** One column of a table on paper. */
interface PaperColumn {
  title: string;
  /** Share of the width. */
  width: number;
  align?: "left" | "right";
  /** Figures stand in letters of one width. */
  figures?: true;
}

/** Signs that the letters of a paper lack, and what stands for them: the sign of the ohm by its own code, arrows in words. */
const SIGNS: Record<string, string> = { "\u03a9": "\u2126", "→": "to" };
const written = (text: string): string => text.replace(/[\u03a9→]/g, (sign) => SIGNS[sign] ?? sign);

/** Signs that the letters of one width lack. */
const NOT_IN_MONO = /[\u2126≤≥]/;

type Cell = string | { text: string; strong: true };

interface PaperOptions {
  title: string;
  /** Who makes it, on top of each page. */
  shop: string;
  /** What it is, beside that. */
  kind: string;
  /** Millimetres; A4 where none are given. */
  size?: { width: number; height: number };
}

/** A paper under way; what is added stands in the order it is added. */
export class Paper {
  readonly #doc: PDFKit.PDFDocument;
  readonly #root: PDFKit.PDFStructureElement;
  readonly #bytes: Promise<Uint8Array>;
  readonly #options: PaperOptions;
  readonly #margin: number;

  constructor(options: PaperOptions) {
    const { title, shop, size } = options;
    const millimetre = 72 / 25.4;
    this.#options = options;
    this.#margin = size ? 12 : MARGIN;
    const doc = new PDFDocument({
      size: size ? [size.width * millimetre, size.height * millimetre] : "A4",
      margin: this.#margin,
      font: require.resolve(FONTS.sans),
      tagged: true,
      lang: "en-GB",
      displayTitle: true,
      pdfVersion: "1.7",
      bufferPages: true,
      info: { Title: title, Author: shop, Creator: "Uvrel" },
    });
    for (const [name, file] of Object.entries(FONTS)) doc.registerFont(name, require.resolve(file));
    const pieces: Buffer[] = [];
    this.#bytes = new Promise((resolve, reject) => {
      doc.on("data", (piece: Buffer) => void pieces.push(piece));
      doc.on("end", () => resolve(Buffer.concat(pieces)));
      doc.on("error", reject);
    });
    this.#doc = doc;
    this.#root = doc.struct("Document");
    doc.addStructure(this.#root);
  }

  /** Width between the margins, points. */
  get width(): number {
    return this.#doc.page.width - 2 * this.#margin;
  }

  /** Begins a new page, unless nothing stands on this one yet. */
  newPage(): void {
    if (this.#doc.y > this.#margin + 1) this.#doc.addPage();
  }

  heading(level: 1 | 2, text: string): void {
    const tag = `H${level}` as const;
    this.#room(60);
    this.#add(tag, () => {
      if (level === 2) this.#doc.moveDown(0.7);
      this.#doc
        .font("strong")
        .fontSize(SIZES[tag])
        .fillColor(level === 1 ? (INKS.ink as string) : (INKS.mute as string))
        .text(written(text), this.#margin, undefined, { width: this.width });
      this.#doc.moveDown(0.2);
    });
  }

  /** A paragraph. */
  text(text: string, look: { size?: keyof typeof SIZES; strong?: boolean; mute?: boolean } = {}): void {
    if (text === "") return;
    this.#add("P", () => {
      this.#doc
        .font(look.strong ? "strong" : "sans")
        .fontSize(SIZES[look.size ?? "P"])
        .fillColor((look.mute ? INKS.mute : INKS.ink) as string)
        .text(written(text), this.#margin, undefined, { width: this.width });
      this.#doc.moveDown(0.25);
    });
  }

  /** Facts by their names, two columns of them. */
  facts(facts: readonly (readonly [string, string])[]): void {
    this.table(
      [
        { title: "", width: 0.22 },
        { title: "", width: 0.78 },
      ],
      facts.map(([name, fact]) => [name, fact]),
    );
  }

  /** A table; its head stands again on every page that it reaches. */
  table(columns: readonly PaperColumn[], rows: readonly (readonly Cell[])[]): void {
    const headed = columns.some(({ title }) => title !== "");
    const table = this.#doc.struct("Table");
    this.#root.add(table);
    const widths = columns.map(({ width }) => width * this.width);
    const draw = (cells: readonly Cell[], head: boolean): void => {
      const height = this.#heightOf(columns, cells, widths, head);
      if (this.#doc.y + height > this.#doc.page.height - this.#margin - 18) {
        this.#doc.addPage();
        if (!head && headed)
          draw(
            columns.map(({ title }) => title),
            true,
          );
      }
      const top = this.#doc.y;
      const row = this.#doc.struct("TR");
      table.add(row);
      let left = this.#margin;
      columns.forEach(({ align = "left", figures }, k) => {
        const { text, font } = this.#lettersOf(cells[k] ?? "", figures === true, head);
        const x = left;
        row.add(
          this.#doc.struct(head ? "TH" : "TD", {}, () => {
            this.#doc
              .font(font)
              .fontSize(SIZES.small)
              .fillColor((head ? INKS.mute : INKS.ink) as string)
              .text(text, x, top + 3, { width: (widths[k] as number) - 8, align });
          }),
        );
        left += widths[k] as number;
      });
      row.end();
      this.#artifact(() => {
        this.#doc
          .moveTo(this.#margin, top + height)
          .lineTo(this.#margin + this.width, top + height)
          .lineWidth(0.5)
          .stroke(INKS.hair as string);
      });
      this.#doc.x = this.#margin;
      this.#doc.y = top + height;
    };
    if (headed)
      draw(
        columns.map(({ title }) => title),
        true,
      );
    for (const row of rows) draw(row, false);
    table.end();
    this.#doc.moveDown(0.4);
  }

  /** A drawing as vectors. @param svg as the screen draws it @param says what is seen on it @param height points */
  figure(svg: string, says: string, height: number): void {
    this.#room(height + 12);
    const top = this.#doc.y + 4;
    const figure = this.#doc.struct("Figure", { alt: says }, () => {
      SVGtoPDF(this.#doc, printed(svg), this.#margin, top, {
        width: this.width,
        height,
        preserveAspectRatio: "xMinYMin meet",
        fontCallback: (family: string) => (/^mono/.test(family) ? "mono" : "sans"),
        warningCallback: () => undefined,
      });
    });
    this.#root.add(figure);
    this.#doc.x = this.#margin;
    this.#doc.y = top + height + 6;
  }

  /** Ends the paper. @returns the whole file */
  finish(): Promise<Uint8Array> {
    const { start, count } = this.#doc.bufferedPageRange();
    for (let k = start; k < start + count && !this.#options.size; k++) {
      this.#doc.switchToPage(k);
      this.#artifact(() => {
        // The foot lies below what text may fill; written there it must not begin a page.
        this.#doc.page.margins.bottom = 0;
        this.#doc
          .font("sans")
          .fontSize(SIZES.small)
          .fillColor(INKS.mute as string)
          .text(`${this.#options.shop} · ${this.#options.kind}`, MARGIN, this.#doc.page.height - 34, { lineBreak: false })
          .text(`${k + 1} / ${count}`, MARGIN, this.#doc.page.height - 34, { width: this.width, align: "right", lineBreak: false });
        this.#doc.page.margins.bottom = MARGIN;
      });
    }
    this.#root.end();
    this.#doc.end();
    return this.#bytes;
  }

  /** What is to stay together begins on a page where there is room for it. */
  #room(height: number): void {
    if (this.#doc.y + height > this.#doc.page.height - this.#margin) this.#doc.addPage();
  }

  #add(tag: string, draw: () => void): void {
    this.#root.add(this.#doc.struct(tag, {}, draw));
  }

  /** Lines and page numbers are nothing to read aloud. */
  #artifact(draw: () => void): void {
    this.#doc.markContent("Artifact", { type: "Layout" });
    draw();
    this.#doc.endMarkedContent();
  }

  /** A cell's text as it is written, and in which letters. */
  #lettersOf(cell: Cell, figures: boolean, head: boolean): { text: string; font: keyof typeof FONTS } {
    const plain = typeof cell === "string" ? { text: cell, strong: head } : cell;
    const text = written(plain.text);
    return { text, font: plain.strong ? "strong" : figures && !head && !NOT_IN_MONO.test(text) ? "mono" : "sans" };
  }

  #heightOf(columns: readonly PaperColumn[], cells: readonly Cell[], widths: readonly number[], head: boolean): number {
    const heights = cells.map((cell, k) => {
      const { text, font } = this.#lettersOf(cell, columns[k]?.figures === true, head);
      this.#doc.font(font).fontSize(SIZES.small);
      return this.#doc.heightOfString(text, { width: (widths[k] as number) - 8 });
    });
    return Math.max(...heights) + 6;
  }
}

/** A drawing of the screen for paper: its inks named, its letters' classes as families. */
export function printed(svg: string): string {
  return (
    written(svg)
      // What the page's style sheet says of lettering has to stand in the drawing itself.
      .replace(/<text(?![^>]*\sfill=)/g, `<text fill="${INKS.ink}"`)
      .replace(/<text(?![^>]*\sstroke=)/g, '<text stroke="none"')
      .replace(/var\(--([\w-]+)\)/g, (_, name: string) => INKS[name] ?? "#000000")
      .replace(/class="([^"]*)"/g, (_, names: string) => (/\bnum\b/.test(names) ? 'font-family="mono"' : ""))
      .replace(/ (?:aria-[\w-]+|role|tabindex|data-[\w-]+)="[^"]*"/g, "")
  );
}
