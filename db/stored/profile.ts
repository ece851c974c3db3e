import { deviceProfile } from '@/schema/deviceProfile';
import { stored } from './stored';

export const storedProfile = stored('device profile', deviceProfile);
