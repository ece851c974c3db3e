import type { ModbusRequest } from '@/core/bus/modbusPdu';
import type { SerialSettings } from '@/core/bus/serial';
import type { HalfDuplexLine } from '@/line/halfDuplexLine';
import { exchangeOn, failed, usualLine, type Exchange, type LineOptions } from '@/line/modbusExchange';
import type { DeviceAddress } from './address';
import { openLine } from './gatewayLine';

export interface GatewayOptions extends LineOptions {
  /** Speed and parity the gateway is told beforehand; left out where it is set by hand. */
  readonly serial?: SerialSettings | null;
}

/** One question and its answer through a TCP serial gateway, which is opened for it. Never throws. */
export async function exchange(
  at: DeviceAddress,
  unit: number,
  request: ModbusRequest,
  options: GatewayOptions = usualLine,
  beforeSending: () => void = () => {},
): Promise<Exchange> {
  let line: HalfDuplexLine;
  try {
    line = await openLine(at, options.timeOut, options.serial ?? null);
  } catch (error) {
    return failed('no-connection', (error as Error).message);
  }
  try {
    return await exchangeOn(line, unit, request, options, beforeSending);
  } finally {
    line.close();
  }
}
