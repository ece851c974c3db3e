/** Answers that are saved as files, sent as they are made. */

/** CSV pieces as a file to save. */
export const csvFile = (name: string, pieces: AsyncGenerator<string>): Response =>
  textFile(`${name}.csv`, 'text/csv', pieces);

/** JSON pieces as a file to save. */
export const jsonFile = (name: string, pieces: AsyncGenerator<string>): Response =>
  textFile(`${name}.json`, 'application/json', pieces);

function textFile(name: string, type: string, pieces: AsyncGenerator<string>): Response {
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await pieces.next();
      if (next.done) controller.close();
      else controller.enqueue(encoder.encode(next.value));
    },
    // Whoever asked went away: nothing more is read.
    async cancel() {
      await pieces.return(undefined);
    },
  });
  const file = name.toLowerCase().replace(/[^a-z0-9.]+/g, '-');
  return new Response(body, {
    headers: {
      'content-type': `${type}; charset=utf-8`,
      'content-disposition': `attachment; filename="${file}"`,
      'cache-control': 'no-store',
    },
  });
}
