import { useEffect, useRef } from 'react';

/** Whether a key press belongs to a field and not to us. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.getAttribute('role') === 'combobox');

/**
 * Keys of a view, by what they write ("j", "?", "ArrowLeft"), whatever the keyboard's layout. Not while
 * somebody types, nor with Ctrl, Alt or the command key held.
 */
export function useKeys(keys: Readonly<Record<string, (event: KeyboardEvent) => void>>): void {
  const newest = useRef(keys);
  useEffect(() => {
    newest.current = keys;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (Object.hasOwn(newest.current, event.key)) newest.current[event.key]!(event);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
