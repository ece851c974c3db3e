import type { PlanContext } from './context';

/** One line of what goes into the bag. */
export interface Pick {
  /** "Shunt 100 Ω", "of cable, 4 leads": what stands behind the count. */
  readonly what: string;
  readonly count: number;
  readonly unit: 'pieces' | 'm';
}

/**
 * What a plan needs in the bag: sensors that nobody holds yet, accessories, terminators, cable by its
 * resistance in whole metres with a tenth to spare, labels for both ends.
 *
 * @param c the plan, gathered
 */
export function pickList(c: PlanContext): readonly Pick[] {
  const counts = new Map<string, number>();
  const add = (what: string, n = 1) => counts.set(what, (counts.get(what) ?? 0) + n);
  const cable = new Map<string, number>();
  for (const d of c.devices) {
    add(
      `${d.sensor?.name ?? d.board?.name ?? d.plan.profile.code}${d.plan.serial ? ` ${d.plan.serial}` : ''}`,
    );
    for (const a of d.accessories) add(a.name);
    const cores = `of cable, ${d.leads.length} leads, ${d.plan.cable.ohmsPerKm} Ω/km`;
    cable.set(cores, (cable.get(cores) ?? 0) + d.plan.cable.metres);
  }
  for (const run of c.plan.runs) {
    const what = `of cable for run ${run.name}, ${run.ohmsPerKm} Ω/km`;
    cable.set(what, (cable.get(what) ?? 0) + run.metres);
  }
  for (const p of c.plan.ports) if (p.terminators > 0) add(`terminator for ${p.name}`, p.terminators);
  if (c.devices.length > 0) add('cable label', 2 * c.devices.length);
  return [
    ...[...counts].map(([what, count]): Pick => ({ what, count, unit: 'pieces' })),
    ...[...cable]
      .filter(([, metres]) => metres > 0)
      .map(([what, metres]): Pick => ({ what, count: Math.ceil(metres * 1.1 - 1e-9), unit: 'm' })),
  ];
}
