import { sensorProfile } from '@/schema/deviceProfile';
import { stored } from './stored';

export const storedProfile = stored('device profile', sensorProfile);
