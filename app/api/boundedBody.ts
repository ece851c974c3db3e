import type { NextRequest } from 'next/server';
import { badField, Problem } from '@/server/problem';

/** The longest body of a usual form, bytes, and how deep any may be nested. */
export const usualBody = 512 * 1024;
const deepest = 32;

const tooLarge = (most: number) =>
  new Problem({
    code: 'too-large',
    status: 413,
    title: 'Too large',
    field: 'body',
    detail: `The request is longer than ${Math.round(most / 1024)} kB.`,
    remedy: 'Send less at once.',
  });

/** Reads a JSON body, counting while it comes: what is too long is not held, what is too deep is not parsed. */
export async function jsonBody(request: NextRequest, most = usualBody): Promise<unknown> {
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge(most);
  const text = await boundedText(request, most);
  if (text === '') return {};
  if (text.includes('\u0000') || /\\u0000/i.test(text))
    throw badField(
      'zero-character',
      'body',
      null,
      'The request holds a zero character.',
      'Send text without it.',
    );
  if (depthOf(text) > deepest)
    throw badField(
      'too-deep',
      'body',
      null,
      `The request is nested more than ${deepest} deep.`,
      'Send a flatter form.',
    );
  try {
    return JSON.parse(text);
  } catch {
    throw badField('not-json', 'body', text.slice(0, 40), 'The request is not JSON.', 'Send JSON.');
  }
}

async function boundedText(request: NextRequest, most: number): Promise<string> {
  if (!request.body) return '';
  const reader = request.body.getReader();
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let text = '';
  let bytes = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      bytes += value?.byteLength ?? 0;
      if (bytes > most) throw tooLarge(most);
      text += done ? decoder.decode() : decoder.decode(value, { stream: true });
      if (done) return text;
    }
  } catch (error) {
    await reader.cancel().catch(() => {});
    if (error instanceof Problem) throw error;
    throw badField('not-text', 'body', null, 'The request is no UTF-8 text.', 'Send JSON in UTF-8.');
  }
}

/** How deep brackets are nested, those in texts left out. */
function depthOf(json: string): number {
  let [depth, most, inText] = [0, 0, false];
  for (let i = 0; i < json.length; i++) {
    const c = json.charCodeAt(i);
    if (inText) {
      if (c === 92) i++;
      else if (c === 34) inText = false;
    } else if (c === 34) inText = true;
    else if (c === 91 || c === 123) most = Math.max(most, ++depth);
    else if (c === 93 || c === 125) depth--;
  }
  return most;
}
