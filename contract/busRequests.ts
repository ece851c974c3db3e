import { causes, type Cause } from '@/core/recovery/cause';
import type { StepName } from '@/core/recovery/steps';
import type { SerialSettings } from '@/core/bus/serial';
import { finite, id, name, serialSettings } from '@/schema/pieces';
import { listOf, must, number, oneOf, orNull, shape, text, unionBy, yesNo } from '@/schema/shape';

/** Talking on a serial line in the logger's place, and looking for why a device does not answer. */
const word = must(number((n) => n.integer().min(0).max(65_535)));
const unit = must(number((n) => n.integer().min(1).max(247)));

export interface BeginLineSession {
  sessionId: string;
  actionId: string;
  portId: string;
  /** The logger holds its polling, or its pair was lifted. */
  master: 'held' | 'lifted';
  /** Outputs of controllers that act on these sensors are in hand; false where nothing acts on them. */
  outputsInHand: boolean;
  /** At the most; the logger goes on by itself then. */
  minutes: number;
}
export const beginLineSession = shape<BeginLineSession>({
  sessionId: id,
  actionId: id,
  portId: id,
  master: must(oneOf<BeginLineSession['master']>()('held', 'lifted')),
  outputsInHand: must(yesNo()),
  minutes: must(finite((n) => n.min(1).max(120))),
});

export interface EndLineSession {
  actionId: string;
  /** What was lifted is back, what was in hand is given back. */
  givenBack: boolean;
}
export const endLineSession = shape<EndLineSession>({ actionId: id, givenBack: must(yesNo()) });

export interface ReadBus {
  actionId: string;
  unit: number;
  fn: 3 | 4;
  address: number;
  count: number;
}
export const readBus = shape<ReadBus>({
  actionId: id,
  unit,
  fn: must(oneOf<ReadBus['fn']>()(3, 4)),
  address: word,
  count: must(number((n) => n.integer().min(1).max(125))),
});

export interface WriteBus {
  actionId: string;
  unit: number;
  address: number;
  values: readonly number[];
}
export const writeBus = shape<WriteBus>({
  actionId: id,
  unit,
  address: word,
  values: must(
    listOf(
      number((n) => n.integer().min(0).max(65_535)),
      (a) => a.min(1).max(16),
    ),
  ),
});

export interface ChangeBusId {
  actionId: string;
  from: number;
  to: number;
  /** Holding register of the ID, and the one that keeps it; null where it is kept at once. */
  register: number;
  storeRegister: number | null;
}
export const changeBusId = shape<ChangeBusId>({
  actionId: id,
  from: unit,
  to: unit,
  register: word,
  storeRegister: must(orNull(number((n) => n.integer().min(0).max(65_535)))),
});

export interface ScanBus {
  operationId: string;
  from: number;
  to: number;
  /** ms each ID is listened to. */
  timeOut: number;
}
export const scanBus = shape<ScanBus>({
  operationId: id,
  from: unit,
  to: unit,
  timeOut: must(number((n) => n.integer().min(40).max(2000))),
});

export interface BeginRecovery {
  recoveryId: string;
  installationId: string;
}
export const beginRecovery = shape<BeginRecovery>({ recoveryId: id, installationId: id });

/** A step that a person does or that takes a moment. `number`: of the line it becomes, one more than there are. */
export interface StepRecovery {
  number: number;
  done:
    | { step: 'skip'; of: StepName }
    | { step: 'reach' | 'ask' | 'others' | 'swap' | 'alone' | 'whose' | 'any-id' }
    | { step: 'light'; light: 'on' | 'off' }
    | { step: 'idle'; volts: number }
    | { step: 'supply'; volts: number }
    /** Set by hand to this combination. */
    | { step: 'speeds'; at: SerialSettings }
    | { step: 'mended'; cause: Cause }
    /** Its logger is asked what it shows of it; the line has to be given back. */
    | { step: 'verified' };
}
const nth = must(number((n) => n.integer().min(1).max(500)));
const volts = { volts: must(finite((n) => n.min(-1000).max(1000))) };
export const stepRecovery = shape<StepRecovery>({
  number: nth,
  done: must(
    unionBy<StepRecovery['done']>()('step', {
      skip: {
        of: must(
          oneOf<StepName>()(
            'reach',
            'ask',
            'others',
            'speeds',
            'light',
            'idle',
            'swap',
            'supply',
            'alone',
            'scan',
            'whose',
            'any-id',
            'service',
          ),
        ),
      },
      reach: {},
      ask: {},
      others: {},
      swap: {},
      alone: {},
      whose: {},
      'any-id': {},
      light: { light: must(oneOf<'on' | 'off'>()('on', 'off')) },
      idle: volts,
      supply: volts,
      speeds: { at: must(serialSettings) },
      mended: { cause: must(oneOf<Cause>()(...(causes as [Cause]))) },
      verified: {},
    }),
  ),
});

/** A step that takes a while. */
export interface WorkRecovery {
  operationId: string;
  number: number;
  step: 'speeds' | 'scan' | 'service';
  /** IDs to be scanned; for the other steps without meaning. */
  from?: number;
  to?: number;
}
export const workRecovery = shape<WorkRecovery>({
  operationId: id,
  number: nth,
  step: must(oneOf<WorkRecovery['step']>()('speeds', 'scan', 'service')),
  from: number((n) => n.integer().min(1).max(247)),
  to: number((n) => n.integer().min(1).max(247)),
});

/** Puts right over the line what was found. */
export interface MendRecovery {
  actionId: string;
  number: number;
}
export const mendRecovery = shape<MendRecovery>({ actionId: id, number: nth });

const terminal = must(text((s) => s.min(1).max(40)));
const address = must(text((s) => s.pattern(/^[0-9a-zA-Z]$/)));

/** SDI-12 on a terminal of the logger, through it or through an adapter of that line. */
interface Sdi12Said {
  terminal: string;
  /** Left out: the logger passes it on. */
  by?: 'logger' | 'adapter';
}
const said = { terminal, by: oneOf<'logger' | 'adapter'>()('logger', 'adapter') };
export interface SaySdi12 extends Sdi12Said {
  actionId: string;
  command: string;
}
export const saySdi12 = shape<SaySdi12>({
  actionId: id,
  ...said,
  command: must(text((s) => s.min(2).max(10))),
});
export interface MeasureSdi12 extends Sdi12Said {
  actionId: string;
  address: string;
  /** "M", "M1", "C". */
  command: string;
  crc: boolean;
}
export const measureSdi12 = shape<MeasureSdi12>({
  actionId: id,
  ...said,
  address,
  command: must(text((s) => s.pattern(/^[MC][1-9]?$/))),
  crc: must(yesNo()),
});
export interface ScanSdi12 extends Sdi12Said {
  operationId: string;
}
export const scanSdi12 = shape<ScanSdi12>({ operationId: id, ...said });
export interface ChangeSdi12 extends Sdi12Said {
  actionId: string;
  from: string;
  to: string;
}
export const changeSdi12 = shape<ChangeSdi12>({ actionId: id, ...said, from: address, to: address });

/** Looks anew who hangs on a daisy chain. */
export interface DiscoverChain {
  actionId: string;
  port: string;
}
export const discoverChain = shape<DiscoverChain>({
  actionId: id,
  port: must(text((s) => s.min(1).max(60))),
});

/** Sets speed and parity of a device by its register; it is asked at the new ones afterwards. */
export interface SetBusSerial {
  actionId: string;
  installationId: string;
  to: SerialSettings;
}
export const setBusSerial = shape<SetBusSerial>({
  actionId: id,
  installationId: id,
  to: must(serialSettings),
});

/** The coefficients of a part that was replaced in a sensor, as its label says them. */
export interface ChangePart {
  actionId: string;
  installationId: string;
  /** Serial number of the part. */
  serial: string;
  coefficients: number[];
}
export const changePart = shape<ChangePart>({
  actionId: id,
  installationId: id,
  serial: must(name(60)),
  coefficients: must(listOf(finite(), (a) => a.min(1).max(16))),
});
