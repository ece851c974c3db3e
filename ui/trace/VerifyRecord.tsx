'use client';

import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useState } from 'react';
import { useMay } from '../shared/person';
import { ApproveForm } from './ApproveForm';
import { CorrectForm } from './CorrectForm';
import { LayerList } from './LayerList';
import { MarkForm } from './MarkForm';
import { ThresholdForm } from './ThresholdForm';
import { TwinForm } from './TwinForm';
import type { VerifyProps } from './verifyProps';

type Part = 'layers' | 'mark' | 'correct' | 'tests' | 'twin' | 'approve';

/** What can be laid over the record, and taken back. Logged values never change. */
export function VerifyRecord(props: VerifyProps) {
  const mayMark = useMay('mark');
  const mayApprove = useMay('approve');
  const [part, setPart] = useState<Part>('layers');
  const parts: readonly [Part, string, boolean][] = [
    ['layers', 'What lies over it', true],
    ['mark', 'Mark a span', mayMark],
    ['correct', 'Correct', mayMark],
    ['tests', 'Quality tests', true],
    ['twin', 'Twin', true],
    ['approve', 'Approve', mayApprove],
  ];
  const choose = (next: Part) => {
    props.onProposal(null);
    props.onThresholds(null);
    setPart(next);
  };
  return (
    <Box sx={{ mt: 2 }}>
      <Tabs
        value={part}
        onChange={(_, v: Part) => choose(v)}
        aria-label="Verify this record"
        variant="scrollable"
        allowScrollButtonsMobile
      >
        {parts
          .filter(([, , may]) => may)
          .map(([value, label]) => (
            <Tab key={value} value={value} label={label} id={`part-${value}`} aria-controls="part" />
          ))}
      </Tabs>
      <Box
        role="tabpanel"
        id="part"
        aria-labelledby={`part-${part}`}
        sx={{ py: 2, borderTop: 1, borderColor: 'divider' }}
      >
        {part === 'layers' && <LayerList {...props} />}
        {part === 'mark' && <MarkForm {...props} key={spanKey(props)} />}
        {part === 'correct' && <CorrectForm {...props} key={spanKey(props)} />}
        {part === 'tests' && <ThresholdForm {...props} />}
        {part === 'twin' && <TwinForm {...props} />}
        {part === 'approve' && <ApproveForm {...props} />}
      </Box>
    </Box>
  );
}

const spanKey = ({ span }: VerifyProps) => `${span?.from} ${span?.until}`;
