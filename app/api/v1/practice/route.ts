import { read, write } from '@/app/api/respond';
import { practise as schema } from '@/contract/practice';
import { practise, practiceView } from '@/server/practice/stand';

export const GET = read('administer', (ctx) => practiceView(ctx));
export const POST = write('administer', schema, (ctx, body) => practise(ctx, body));
