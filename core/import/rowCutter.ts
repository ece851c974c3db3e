/** A row longer than this many characters is no row: a quote was opened and never closed. */
export const longestRow = 200_000;

export type Cut =
  | { readonly kind: 'rows'; readonly text: string }
  | { readonly kind: 'unclosed-quote'; readonly line: number };

/**
 * Cuts a stream of text into pieces that end at the end of a row, also where quoted cells hold line
 * breaks (RFC 4180, 2.6: quotes come in pairs, so a row ends at a line break with an even number of
 * quotes before it). Line breaks are \n, \r\n or a lone \r, as `newline` says.
 */
export function rowCutter(newline: '\n' | '\r\n' | '\r') {
  const mark = newline === '\r' ? '\r' : '\n';
  let rest = '';
  /** First line of `rest`, counted from 1. */
  let line = 1;

  const countLines = (text: string) => {
    let n = 0;
    for (let i = text.indexOf(mark); i >= 0; i = text.indexOf(mark, i + 1)) n++;
    return n;
  };

  return {
    /** Line number of the first row of the next piece. */
    get line() {
      return line;
    },
    /** Takes more text; gives all whole rows so far. */
    push(more: string): Cut {
      const text = rest + more;
      const end = lastRowEnd(text, mark);
      if (end < 0) {
        rest = text;
        return text.length > longestRow ? { kind: 'unclosed-quote', line } : { kind: 'rows', text: '' };
      }
      rest = text.slice(end + 1);
      const rows = text.slice(0, end + 1);
      line += countLines(rows);
      if (rest.length > longestRow) return { kind: 'unclosed-quote', line };
      return { kind: 'rows', text: rows };
    },
    /** The last row, when the file does not end with a line break. */
    end(): Cut {
      const last = rest;
      rest = '';
      return quotesIn(last) % 2 === 1 ? { kind: 'unclosed-quote', line } : { kind: 'rows', text: last };
    },
  };
}

function quotesIn(text: string): number {
  let n = 0;
  for (let i = text.indexOf('"'); i >= 0; i = text.indexOf('"', i + 1)) n++;
  return n;
}

function lastRowEnd(text: string, mark: string): number {
  const last = text.lastIndexOf(mark);
  // Quotes are rare in records: without any, the last line break ends a row.
  if (last < 0 || text.indexOf('"') < 0) return last;
  let open = false;
  let end = -1;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 34) open = !open;
    else if (!open && text[i] === mark) end = i;
  }
  return end;
}
