import { benchImport } from './import';
import { benchQuality } from './quality';
import { benchWorld } from './world';

const wanted = process.argv.slice(2);
const wants = (part: string) => wanted.length === 0 || wanted.includes(part);

if (wants('quality')) await benchQuality();
if (['import', 'trace', 'verify'].some(wants)) {
  const world = await benchWorld();
  try {
    if (wants('import')) await benchImport(world);
  } finally {
    await world.db.sequelize.close();
  }
}
