import { readFileSync } from 'node:fs';
import WebSocket from 'ws';
import { stack } from './steps';

/**
 * What the running application holds after a full collection, MB: live objects and buffers, through the
 * debugger that Node opens on SIGUSR1. Its resident size would not do: the collector lets garbage lie while
 * the machine has room, so the same requests leave 60 MB there on one run and 200 on the next.
 */
export async function liveMemory(): Promise<number> {
  const { kind } = stack();
  const log = `.data/${kind}-app.log`;
  process.kill(Number(readFileSync(`.data/${kind}-app.pid`, 'utf8')), 'SIGUSR1');
  let address: string | undefined;
  for (let i = 0; i < 100 && !address; i++) {
    address = [...readFileSync(log, 'utf8').matchAll(/ws:\/\/127\.0\.0\.1:\d+\/\S+/g)].at(-1)?.[0];
    if (!address) await new Promise((resolve) => setTimeout(resolve, 100));
  }
  if (!address) throw new Error(`The application opened no debugger; see ${log}`);
  const line = new WebSocket(address);
  await new Promise((resolve, reject) => line.once('open', resolve).once('error', reject));
  const ask = (id: number, method: string, params = {}) =>
    new Promise<{ result: { value: string } }>((resolve) => {
      const hear = (data: WebSocket.RawData) => {
        const answer = JSON.parse((data as Buffer).toString('utf8')) as { id?: number; result: never };
        if (answer.id !== id) return;
        line.off('message', hear);
        resolve(answer.result);
      };
      line.on('message', hear);
      line.send(JSON.stringify({ id, method, params }));
    });
  // Twice: what the first collection frees by finalizers goes with the second.
  await ask(1, 'HeapProfiler.collectGarbage');
  await ask(2, 'HeapProfiler.collectGarbage');
  const { result } = await ask(3, 'Runtime.evaluate', {
    expression: 'JSON.stringify(process.memoryUsage())',
  });
  line.close();
  const { heapUsed, external } = JSON.parse(result.value) as NodeJS.MemoryUsage;
  return (heapUsed + external) / 2 ** 20;
}
