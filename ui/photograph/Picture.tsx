'use client';

import Box from '@mui/material/Box';
import type { SxProps, Theme } from '@mui/material/styles';
import { useEffect, useState } from 'react';
import { heldPicture, isAway } from '../taken/away';
import { pictureAddress } from './pictureText';

/** A photograph; away from the server the small one that was taken along, whatever size is asked for. */
export function Picture({
  stationId,
  id,
  size,
  ...shown
}: {
  stationId: string;
  id: string;
  size: 'large' | 'small';
  alt: string;
  loading?: 'lazy';
  width?: number;
  height?: number;
  sx: SxProps<Theme>;
}) {
  const { address: src } = usePictureAddress(stationId, id, size);
  return src ? <Box component="img" src={src} {...shown} /> : <Box sx={shown.sx}>not taken along</Box>;
}

/** Where a photograph can be had: from the server, or in small from the device. */
export function usePictureAddress(
  stationId: string,
  id: string,
  size: 'large' | 'small',
): { readonly address: string | null } {
  const held = useHeldPicture(pictureAddress(stationId, id, 'small'));
  return { address: isAway() ? held : pictureAddress(stationId, id, size) };
}

/** Address of a picture in memory; null where it is not held, or there is no need of it. */
function useHeldPicture(address: string): string | null {
  const [src, setSrc] = useState<string | null>(null);
  useEffect(() => {
    if (!isAway()) return;
    let made: string | null = null;
    let isGone = false;
    void heldPicture(address).then((blob) => {
      if (!blob || isGone) return;
      made = URL.createObjectURL(blob);
      setSrc(made);
    });
    return () => {
      isGone = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [address]);
  return src;
}
