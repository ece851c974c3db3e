import type { DeviceProfile } from '@/core/device/equipment';
import type { Pin, Plan } from '@/core/plan/plan';
import type { ChangeLines } from './planRequests';

/** The plan's page: the newest plan, or one of what hangs there already; null while the logger has no profile. */
export interface PlanView {
  stationId: string;
  code: string;
  name: string;
  cautions: readonly string[];
  loggerModel: string;
  loggerSerial: string;
  loggerProfile: Pin | null;
  /** 0 where nobody saved one yet. */
  revision: number;
  savedAt: string | null;
  savedBy: string | null;
  plan: Plan | null;
  profiles: DeviceProfile[];
  installed: { id: string; serial: string; leads: { colour: string; terminal: string }[] }[];
}

/** Where there is what: sites with their stations, and the loggers a new station can have. */
export interface SetUpView {
  sites: {
    id: string;
    name: string;
    zone: string;
    note: string;
    latitude: number | null;
    longitude: number | null;
    cautions: readonly string[];
    stations: {
      id: string;
      code: string;
      name: string;
      cautions: readonly string[];
      retired: boolean;
      logger: {
        model: string;
        profile: string | null;
        utcOffsetMinutes: number;
        supplyVoltage: number;
        serial: string;
        address: string;
      } | null;
      /** Its serial lines, and its data lines of SDI-12. */
      lines: {
        portId: string;
        name: string;
        bus: 'modbus-rtu' | 'sdi-12';
        gateway: ChangeLines['ports'][number]['gateway'];
      }[];
    }[];
  }[];
  loggers: { code: string; name: string; preferred: number; lines: string[] }[];
  gateways: { code: string; name: string; framing: 'rtu' | 'tcp' | 'sdi-12' }[];
}
