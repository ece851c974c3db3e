import { shippedProfile } from '@/catalogue/profiles';
import { partCoefficients, partWords, type ReplaceablePart } from '@/core/device/part';
import { roundTo } from '@/core/quantity/format';
import type { SimSensor } from './state';

/** A part of a sensor that is replaced: what its label says, and what the sensor was told. */

const partOf = (sensor: SimSensor): ReplaceablePart | null => shippedProfile(sensor.model)?.part ?? null;

/** As delivered it was told what its first part is: the middle of each coefficient. */
function held(sensor: SimSensor, part: ReplaceablePart): NonNullable<SimSensor['part']> {
  if (!sensor.part) {
    const words = partWords(part.coefficients.map(({ low, high }) => (low + high) / 2));
    sensor.part = { told: [...words], stored: [...words], own: [...words] };
  }
  return sensor.part;
}

/** What a register of its coefficients holds; null for one that is none. */
export function partRegister(sensor: SimSensor, address: number): number | null {
  const part = partOf(sensor);
  return part ? (held(sensor, part).told[address - part.register] ?? null) : null;
}

/** Takes a word into a register of its coefficients, or keeps them; false for a register that is none of them. */
export function tellPart(sensor: SimSensor, address: number, value: number): boolean {
  const part = partOf(sensor);
  if (!part) return false;
  const now = held(sensor, part);
  if (address === part.storeRegister) {
    now.stored = [...now.told];
    return value === 1;
  }
  if (now.told[address - part.register] === undefined) return false;
  now.told[address - part.register] = value;
  if (part.storeRegister === null) now.stored = [...now.told];
  return true;
}

/** Another part is put in, by its label or whichever lies at hand; what the sensor was told stays as it was. */
export function putPart(sensor: SimSensor, coefficients: readonly number[] | 'another'): void {
  const part = partOf(sensor);
  if (!part) throw new Error(`${sensor.serial} has no such part`);
  const label =
    coefficients === 'another'
      ? part.coefficients.map(({ low, high }) => roundTo(low + 0.6 * (high - low), 4))
      : coefficients;
  held(sensor, part).own = partWords(label);
}

/** What the label of the part says that is in it; null where it has none. */
export function partLabel(sensor: SimSensor): number[] | null {
  const part = partOf(sensor);
  return part && partCoefficients(held(sensor, part).own).map((c) => roundTo(c, 4));
}

/** By how much an output is wrong while it goes by the coefficients of another part. */
export function partFactor({ model, part }: SimSensor, key: string): number {
  if (!part || !shippedProfile(model)?.part?.bears.includes(key)) return 1;
  const [told, own] = [part.told, part.own].map((words) => partCoefficients(words)[0]!);
  return told! / own!;
}
