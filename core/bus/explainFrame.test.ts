import fc from 'fast-check';
import { explainFrame, explainSdi12 } from './explainFrame';
import { encodeRtu, rtuFrame } from './modbusRtu';

const bytes = (text: string) => Uint8Array.from(text.split(' ').map((b) => parseInt(b, 16)));
const said = (direction: 'sent' | 'received', text: string) =>
  explainFrame(direction, bytes(text)).map((p) => `${p.name}: ${p.says}`);

test('widely printed frames of function 03: question and answer (from memory)', () => {
  expect(said('sent', '11 03 00 6B 00 03 76 87')).toEqual([
    'ID: 17',
    'function: read holding registers',
    'first register: 107',
    'how many: 3',
    'checksum: fits',
  ]);
  expect(said('received', '11 03 06 AE 41 56 52 43 40 49 AD')).toEqual([
    'ID: 17',
    'function: read holding registers',
    'bytes that follow: 6',
    'register 1: 44609',
    'register 2: 22098',
    'register 3: 17216',
    'checksum: fits',
  ]);
});
test('a refusal says its reason; MODBUS Application Protocol V1.1b3, section 7', () => {
  expect(explainFrame('received', rtuFrame(3, Uint8Array.of(0x84, 2))).map((p) => p.says)).toEqual([
    '3',
    'read input registers: refused',
    'illegal data address',
    'fits',
  ]);
});
test('writing: one register, and several', () => {
  expect(explainFrame('sent', encodeRtu(3, { fn: 6, address: 40, value: 5 })).map((p) => p.says)).toEqual([
    '3',
    'write one register',
    '40',
    '5',
    'fits',
  ]);
  expect(
    explainFrame('sent', encodeRtu(3, { fn: 16, address: 40, values: [5, 258] })).map((p) => p.name),
  ).toEqual([
    'ID',
    'function',
    'first register',
    'how many',
    'bytes that follow',
    'value 1',
    'value 2',
    'checksum',
  ]);
});
test('a checksum that does not fit, noise and nothing are said to be that', () => {
  expect(said('received', '11 03 06 AE 41 56 52 43 40 49 AE').at(-1)).toMatch(/does not fit/);
  expect(said('received', '77 00 12 08 99 10')).toEqual([
    expect.stringMatching(/noise, or another protocol/),
  ]);
  expect(explainFrame('received', new Uint8Array())[0]!.says).toBe('nothing');
});
test('whatever comes, every byte is shown once and in its order', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 260 }),
      fc.constantFrom('sent' as const, 'received' as const),
      (frame, d) => {
        const shown = explainFrame(d, frame)
          .map((p) => p.bytes)
          .filter(Boolean)
          .join(' ');
        expect(shown.split(' ').filter(Boolean)).toHaveLength(frame.length);
      },
    ),
  );
});

test('SDI-12: what a command is answered with, field by field', () => {
  const shown = (command: string, answer: string | null) =>
    explainSdi12(command, answer).map((p) => `${p.name} ${p.says}`);
  expect(shown('0D0!', '0+3.14OqZ')).toEqual(['address 0', 'value 1 3.14', 'checksum fits']);
  expect(shown('3M!', '30012')).toEqual(['address 3', 'ready in 1 s', 'then 2 values']);
  expect(shown('0I!', '013STANDIN NOUST-001S3-0071')).toContain('vendor STANDIN');
  expect(shown('?!', '01')).toEqual(['answer no address: two at once, or another protocol']);
  expect(shown('5!', null)).toEqual(['answer none']);
  fc.assert(
    fc.property(
      fc.string({ unit: 'binary', maxLength: 50 }),
      fc.constantFrom('0!', '0I!', '0M!', '0D0!', 'x'),
      (a, c) => {
        expect(
          explainSdi12(c, a)
            .map((p) => p.bytes)
            .join(''),
        ).toBe(a);
      },
    ),
  );
});
