import { useLayoutEffect, useRef } from 'react';

/** Whether a key press belongs to a field and not to us. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.getAttribute('role') === 'combobox');

/**
 * Keys of a view, by what they write ("j", "?", "ArrowLeft"), whatever the keyboard's layout; with Ctrl or the
 * command key held "mod+z", with Shift too "mod+shift+z". Not while somebody types, nor with Alt held.
 */
export function useKeys(keys: Readonly<Record<string, (event: KeyboardEvent) => void>>): void {
  const newest = useRef(keys);
  // As soon as a view is on screen: a key pressed then is meant for it.
  useLayoutEffect(() => {
    newest.current = keys;
  });
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.altKey) return;
      const name =
        event.ctrlKey || event.metaKey
          ? `mod+${event.shiftKey ? 'shift+' : ''}${event.key.toLowerCase()}`
          : event.key;
      if (!Object.hasOwn(newest.current, name)) return;
      newest.current[name]!(event);
      // The browser has its own use for most of these.
      if (name.startsWith('mod+')) event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
