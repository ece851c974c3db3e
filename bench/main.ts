import { benchImport } from './import';
import { benchQuality } from './quality';
import { benchTrace } from './trace';
import { benchVerify } from './verify';
import { benchWorld } from './world';

const wanted = process.argv.slice(2);
const wants = (part: string) => wanted.length === 0 || wanted.includes(part);

if (wants('quality')) await benchQuality();
if (['import', 'trace', 'verify'].some(wants)) {
  const world = await benchWorld();
  try {
    if (wants('import')) await benchImport(world);
    if (wants('trace')) await benchTrace(world);
    if (wants('verify')) await benchVerify(world);
  } finally {
    await world.db.sequelize.close();
  }
}
