/**
 * The body of an answer, read no further than a limit: a device that never stops talking fills nobody's
 * memory.
 */
export class AnswerTooLong extends Error {}

/** A whole answer as text; throws AnswerTooLong beyond `most` bytes. */
export async function boundedText(body: ReadableStream<Uint8Array> | null, most: number): Promise<string> {
  if (!body) return '';
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let text = '';
  for await (const piece of boundedStream(body, most)) text += decoder.decode(piece, { stream: true });
  return text + decoder.decode();
}

/** The pieces of an answer; throws AnswerTooLong once more than `most` bytes came. */
export async function* boundedStream(
  body: ReadableStream<Uint8Array>,
  most: number,
): AsyncGenerator<Uint8Array> {
  const reader = body.getReader();
  let bytes = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      bytes += value.byteLength;
      if (bytes > most) throw new AnswerTooLong(`more than ${most} bytes came`);
      yield value;
    }
  } finally {
    await reader.cancel().catch(() => {});
  }
}
