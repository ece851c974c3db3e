/** All of a text that comes in pieces. */
export async function textOf(pieces: AsyncIterable<string>): Promise<string> {
  let text = '';
  for await (const piece of pieces) text += piece;
  return text;
}
