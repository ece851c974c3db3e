import { wiringPlan } from '@/schema/wiringPlan';
import { stored } from './stored';

export const storedWiringPlan = stored('wiring plan', wiringPlan);
