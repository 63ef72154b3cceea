/** Bounds of a JSON document that somebody sends: far above any of ours. */
const MOST = { depth: 32, values: 100_000 } as const;

/**
 * What is too much about a JSON text, told before anything parses it: how deep it nests, and how many values it holds. Commas and
 * brackets outside strings are counted; whether the text is JSON at all is for the parser to say.
 * @param most values that it may hold, where that is fewer than of any document
 */
export function beyondBounds(text: string, most: number = MOST.values): string | undefined {
  let [depth, values, inString] = [0, 1, false];
  for (let k = 0; k < text.length; k++) {
    const sign = text.charCodeAt(k);
    if (inString) {
      if (sign === BACKSLASH) k++;
      else if (sign === QUOTE) inString = false;
    } else if (sign === QUOTE) inString = true;
    else if (sign === OPEN_LIST || sign === OPEN_OBJECT) depth++;
    else if (sign === CLOSE_LIST || sign === CLOSE_OBJECT) depth--;
    else if (sign === COMMA) values++;
    if (depth > MOST.depth) return `nests deeper than ${MOST.depth} levels`;
    if (values > most) return `holds more than ${most.toLocaleString("en")} values`;
  }
  return undefined;
}

const [QUOTE, BACKSLASH, COMMA, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = Array.from('"\\,[]{}', (sign) => sign.charCodeAt(0)) as [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
];
