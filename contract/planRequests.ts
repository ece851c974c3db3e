import type { SerialSettings } from '@/core/bus/serial';
import type { DeviceProfile } from '@/core/device/equipment';
import type { Plan } from '@/core/plan/plan';
import { deviceProfile } from '@/schema/deviceProfile';
import { finite, id, name, occurredAt, serialSettings, words } from '@/schema/pieces';
import { listOf, must, number, oneOf, orNull, shape, text, yesNo } from '@/schema/shape';
import { wiringPlan } from '@/schema/wiringPlan';
import { deviceAddress } from './stationDescription';

/** A plan as it is saved: on the revision it began from. */
export interface SavePlan {
  basedOn: number;
  plan: Plan;
}
export const savePlan = shape<SavePlan>({
  basedOn: must(number((n) => n.integer().min(0))),
  plan: must(wiringPlan),
});

/** A planned sensor in the hand: its serial number, and which lead really landed where. */
export interface InstallPlanned {
  /** Of the plan; the installation takes it on. */
  deviceId: string;
  revision: number;
  serial: string;
  landed: { colour: string; terminal: string }[];
  /** Steps of mounting that were done, in the words of the profile. */
  mounted: string[];
  /** Why something landed elsewhere than planned; empty where nothing did. */
  deviation: string;
  occurredAt: string;
}
export const installPlanned = shape<InstallPlanned>({
  deviceId: id,
  revision: must(number((n) => n.integer().min(1))),
  serial: must(name(60)),
  landed: must(
    listOf(
      shape<InstallPlanned['landed'][number]>({ colour: must(name(30)), terminal: must(name(12)) }),
      (a) => a.max(24),
    ),
  ),
  mounted: must(listOf(words(1), (a) => a.max(20))),
  deviation: must(words()),
  occurredAt,
});

/** How a station's logger is reached and fed, and what carries its serial lines. */
export interface ChangeLines {
  address: string;
  supplyVoltage: number;
  ports: {
    portId: string;
    /** Null: nothing carries this line to the network. */
    gateway: {
      /** Code of its profile, which then says how it frames; null for one that nobody described. */
      profile: string | null;
      address: string;
      framing: 'rtu' | 'tcp' | 'sdi-12';
      serial: SerialSettings;
    } | null;
  }[];
}
type Line = ChangeLines['ports'][number];
export const changeLines = shape<ChangeLines>({
  address: deviceAddress,
  supplyVoltage: must(finite((n) => n.greater(0).max(60))),
  ports: must(
    listOf(
      shape<Line>({
        portId: id,
        gateway: must(
          orNull(
            shape<NonNullable<Line['gateway']>>({
              profile: must(orNull(text((s) => s.max(40)))),
              address: deviceAddress,
              framing: must(oneOf<'rtu' | 'tcp' | 'sdi-12'>()('rtu', 'tcp', 'sdi-12')),
              serial: must(serialSettings),
            }),
          ),
        ),
      }),
      (a) => a.max(16),
    ),
  ),
});

/** Which model a logger is. */
export interface DescribeLogger {
  profileCode: string;
}
export const describeLogger = shape<DescribeLogger>({ profileCode: must(text((s) => s.max(40))) });

export interface ChangeStation {
  code: string;
  name: string;
  siteId: string;
  cautions: string[];
}
export const changeStation = shape<ChangeStation>({
  code: must(text((s) => s.pattern(/^[A-Z0-9-]{2,20}$/))),
  name: must(name(80)),
  siteId: id,
  cautions: must(listOf(words(1), (a) => a.max(10))),
});

/** Closed, its record kept; or opened again. */
export interface RetireStation {
  retired: boolean;
  reason: string;
}
export const retireStation = shape<RetireStation>({ retired: must(yesNo()), reason: must(words(1)) });

export interface ChangeSite {
  name: string;
  zone: string;
  note: string;
  latitude: number | null;
  longitude: number | null;
  cautions: string[];
}
const coordinate = (most: number) => must(orNull(finite((n) => n.min(-most).max(most))));
export const changeSite = shape<ChangeSite>({
  name: must(name(80)),
  zone: must(name(60)),
  note: must(words()),
  latitude: coordinate(90),
  longitude: coordinate(180),
  cautions: must(listOf(words(1), (a) => a.max(10))),
});

/** A device profile to be put on file. */
export interface AddProfile {
  profile: DeviceProfile;
}
export const addProfile = shape<AddProfile>({ profile: must(deviceProfile) });
