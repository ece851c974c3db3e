import { receiveTogether } from '@/app/api/receive';
import { receivers } from '@/app/api/receivers';

export const POST = receiveTogether(receivers);
