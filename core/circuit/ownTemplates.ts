import type { ConversionStep } from '../device/conversion';
import type { NodePair } from './network';
import type { OwnCircuit, OwnRow } from './own';

type Part = readonly [
  kind: OwnRow['kind'],
  id: string,
  from: string,
  to: string,
  ohms: string,
  more?: { readonly tolerance?: string; readonly low?: string; readonly high?: string },
];

const circuit = (
  name: string,
  parts: readonly Part[],
  more: Partial<Pick<OwnCircuit, 'hidden' | 'excitation' | 'output' | 'says'>> = {},
): OwnCircuit => ({
  name,
  rows: parts.map(([kind, id, from, to, ohms, its]) => ({
    kind,
    id,
    from,
    to,
    ohms,
    tolerance: its?.tolerance ?? '',
    low: its?.low ?? '',
    high: its?.high ?? '',
  })),
  hidden: [],
  excitation: null,
  output: null,
  says: null,
  ...more,
});

const ground: NodePair = ['EX', 'G'];
/** A lead from the sensor to its terminal, off it. */
const lead = (colour: string, from: string, terminal: string, ohms = '1.7'): readonly Part[] => [
  ['lead', `lead ${colour}`, from, colour, ohms, { tolerance: '20' }],
  ['link', `under ${terminal}`, colour, terminal, 'open'],
];
const says = (element: string, step: ConversionStep): Pick<OwnCircuit, 'says'> => ({
  says: { element, unit: '°C', conversion: step },
});
const pt100 = says('PRT', { step: 'callendar-van-dusen', at0: 100 });
const of100k = says('thermistor', { step: 'beta', at25: 100_000, beta: 4000 });
/** Out of reach from the cabinet, and terminals off which the leads are. */
const atSensor = ['a', 'b', '1', '2', '3', '4'];
const platinum = { low: '84.27', high: '119.4' };

/** Circuits to begin with. Their values are examples. */
export const ownTemplates: readonly OwnCircuit[] = [
  circuit(
    'Divider',
    [
      ['fixed', 'R1', 'EX', 'S', '10k', { tolerance: '1' }],
      ['fixed', 'R2', 'S', 'G', '10k', { tolerance: '1' }],
    ],
    { excitation: ground, output: ['S', 'G'] },
  ),
  circuit(
    'Half bridge, thermistor below its fixed resistor',
    [
      ['fixed', 'fixed', 'EX', 'S', '249k', { tolerance: '0.1' }],
      ['sensing', 'thermistor', 'S', 'G', '100k', { low: '26k', high: '330k' }],
    ],
    { excitation: ground, output: ['S', 'G'], ...of100k },
  ),
  circuit(
    'Thermistor with fixed resistors',
    [
      ['sensing', 'thermistor', 'A', 'B', '100k', { low: '26k', high: '330k' }],
      ['fixed', 'in series', 'B', 'C', '249k', { tolerance: '1' }],
      ['fixed', 'to ground', 'C', 'G', '1k', { tolerance: '0.1' }],
    ],
    { excitation: ['A', 'G'], output: ['C', 'G'], ...of100k },
  ),
  circuit(
    'PRT, two wires',
    [['sensing', 'PRT', 'a', 'b', '105', platinum], ...lead('red', 'a', '1'), ...lead('white', 'b', '2')],
    { ...pt100, hidden: atSensor },
  ),
  circuit(
    'PRT, three wires',
    [
      ['sensing', 'PRT', 'a', 'b', '105', platinum],
      ...lead('red', 'a', '1'),
      ...lead('white', 'b', '2'),
      ...lead('brown', 'b', '3'),
    ],
    { ...pt100, hidden: atSensor },
  ),
  circuit(
    'PRT, four wires',
    [
      ['sensing', 'PRT', 'a', 'b', '105', platinum],
      ...lead('red', 'a', '1'),
      ...lead('brown', 'a', '2'),
      ...lead('white', 'b', '3'),
      ...lead('black', 'b', '4'),
    ],
    { ...pt100, hidden: atSensor },
  ),
  circuit(
    'Full bridge',
    [
      ['sensing', 'arm 1', 'EX', 'S+', '350', { low: '349', high: '351' }],
      ['sensing', 'arm 2', 'S+', 'G', '350', { low: '349', high: '351' }],
      ['sensing', 'arm 3', 'EX', 'S−', '350', { low: '349', high: '351' }],
      ['sensing', 'arm 4', 'S−', 'G', '350', { low: '349', high: '351' }],
    ],
    { excitation: ground, output: ['S+', 'S−'] },
  ),
  circuit(
    'Potentiometer: wind direction, float',
    [
      ['sensing', 'above the wiper', 'EX', 'W', '6k', { low: '10k', high: '10' }],
      ['sensing', 'below the wiper', 'W', 'G', '4k', { low: '10', high: '10k' }],
    ],
    { excitation: ground, output: ['W', 'G'] },
  ),
  circuit(
    '4–20 mA loop: its leads and its shunt',
    [
      ['lead', 'lead out', 'V+', 'S+', '3.4', { tolerance: '20' }],
      ['lead', 'lead back', 'S−', 'IN', '3.4', { tolerance: '20' }],
      ['fixed', 'shunt', 'IN', 'G', '100', { tolerance: '0.1' }],
      ['link', 'joined at the sensor', 'S+', 'S−', 'closed'],
    ],
    { hidden: ['S−'] },
  ),
  circuit(
    'Contact',
    [
      ['sensing', 'contact', 'a', 'b', '0.2', { low: '0.1', high: '1' }],
      ...lead('red', 'a', '1'),
      ...lead('black', 'b', '2'),
    ],
    { hidden: atSensor },
  ),
];
