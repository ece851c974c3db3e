import { hangSensors } from '@/scripts/historySensors';
import { scenarioStations } from '@/simulator/scenarioStations';
import { present } from './bench';
import { onStation, type OnStation } from './onStation';

/** A station of the demo's with all its sensors hanging, their settings written, since so many minutes before the present. */
export function onHungStation(code: string, minutes: number, take: (made: OnStation) => void): void {
  const st = scenarioStations.find((s) => s.code === code)!;
  onStation(
    code,
    take,
    async (made) => {
      made.stand.state.clock = { mode: 'frozen', at: present - minutes * 60_000 };
      await hangSensors(made.at(-minutes), made.stationId, made.portId, st);
      made.stand.state.clock = { mode: 'frozen', at: present };
    },
    st.sensors.some((s) => s.busId !== null),
  );
}
