import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { ThresholdPreviewView } from '@/contract/recordViews';
import type { QualityThresholds } from '@/core/quality/tests';
import { load } from '../shared/api';
import type { Span } from './verifyProps';

/** What thresholds that are being typed would flag in the window; null until they can be asked about. */
export function useThresholdPreview(base: string, { from, until }: Span, typed: QualityThresholds) {
  const text = JSON.stringify(typed);
  const [settled, setSettled] = useState(text);
  // Asked once the person pauses, not at every key.
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 400);
    return () => clearTimeout(timer);
  }, [text]);
  const query = new URLSearchParams({
    from: new Date(from).toISOString(),
    until: new Date(until).toISOString(),
    thresholds: settled,
  });
  const { data = null } = useQuery({
    queryKey: [base, 'preview', query.toString()],
    queryFn: () => load<ThresholdPreviewView>(`${base}/thresholds/preview?${query}`),
    placeholderData: keepPreviousData,
    // Half-typed limits are refused: what was counted before stays until they are whole.
    retry: false,
  });
  return data;
}
