import type { StationDescription } from '@/contract/stationDescription';

/** A station nobody talks to: for work on its record alone. */
export const plainStation = (code: string): StationDescription => ({
  site: { name: 'Skerrow Moss', zone: 'Etc/UTC' },
  code,
  name: 'Bench',
  logger: {
    model: 'Brannoch B4',
    serial: `BR4-${code}`,
    address: '127.0.0.1:1',
    utcOffsetMinutes: 0,
    supplyVoltage: 12,
  },
  port: {
    name: 'Port 1',
    gatewayAddress: '127.0.0.1:2',
    serial: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
    terminals: [{ label: '1', signal: 'supply+' }],
  },
});
