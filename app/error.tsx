'use client';

import { FailedPage } from '@/ui/shared/FailedPage';

export default FailedPage;
