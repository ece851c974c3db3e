import type { ChannelInput } from './channelInput';
import { conversionText } from './conversion';
import { outputFieldText } from './outputField';

/**
 * What a logger is told of a channel's input, in words.
 *
 * @param input null for a channel without one
 * @example inputText({ kind: 'pulse', terminal: 'P1', conversion: [] }) // 'pulses on P1, as it is'
 */
export function inputText(input: ChannelInput | null): string {
  if (!input) return 'none';
  return `${where(input)}, ${conversionText(input.conversion)}`;
}

function where(input: ChannelInput): string {
  switch (input.kind) {
    case 'modbus-rtu':
      return `ID ${input.busId}, ${outputFieldText({ kind: 'register', ...input.field })}`;
    case 'sdi-12':
      return `address ${input.address} on ${input.terminal}, value ${input.index + 1} of ${input.command}`;
    case 'chain':
      return `${input.unit} on ${input.terminal}, value ${input.slot + 1}`;
    case 'i2c':
      return `address 0x${input.address.toString(16)} on ${input.terminal}, register ${input.register}`;
    case 'clocked':
      return `value ${input.slot + 1} on ${input.terminal}`;
    case 'analog':
      return [
        `${input.measures} on ${input.terminal}`,
        input.against && `against ${input.against}`,
        input.excitation && `fed by ${input.excitation}`,
      ]
        .filter(Boolean)
        .join(' ');
    case 'pulse':
      return `pulses on ${input.terminal}`;
  }
}

/**
 * Whether a logger holds the input it was told, field by field; the order of fields does not count.
 *
 * @param told what it was told
 * @param held what it says it holds: anything may come from a device
 * @returns both in words where they differ, null where they agree
 * @example inputDifference({ kind: 'pulse', terminal: 'P1', conversion: [] }, { conversion: [], terminal: 'P1', kind: 'pulse' }) // null
 */
export function inputDifference(
  told: ChannelInput,
  held: unknown,
): { readonly wanted: string; readonly found: string } | null {
  if (canonical(told) === canonical(held)) return null;
  const wanted = inputText(told);
  const found = heldText(held);
  return { wanted, found: found === wanted ? `${found}, in another form` : found };
}

function heldText(held: unknown): string {
  try {
    return inputText(held as ChannelInput | null);
  } catch {
    return 'nothing that can be read';
  }
}

/** JSON with the fields of every object in one order. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_key, v: unknown) =>
    v !== null && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
