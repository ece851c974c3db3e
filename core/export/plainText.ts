/**
 * How text is written into a CSV that a spreadsheet may open: what begins like a formula gets an apostrophe
 * before it, so that it stays text. Source: OWASP, CSV Injection (from memory). A number of its own, minus
 * sign and all, is none of it.
 */
export const plainText = { escapeFormulae: /^[=+\-@\t\r\n＝＋－＠]/ } as const;
