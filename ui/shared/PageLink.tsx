'use client';

import Link from 'next/link';
import { useState, type ComponentProps } from 'react';

/**
 * A link to a page of the application. The page is asked for beforehand once somebody points at the link: a list has
 * dozens of links in view, and to ask for each of them is more than a weak signal, or a small server, has to give.
 */
export default function PageLink({ onPointerEnter, onFocus, ...props }: ComponentProps<typeof Link>) {
  const [wanted, setWanted] = useState(false);
  return (
    <Link
      prefetch={wanted ? null : false}
      {...props}
      onPointerEnter={(event) => {
        setWanted(true);
        onPointerEnter?.(event);
      }}
      onFocus={(event) => {
        setWanted(true);
        onFocus?.(event);
      }}
    />
  );
}
