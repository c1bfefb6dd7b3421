import { lazy, Suspense, useEffect } from 'react';
import { useGoing } from '../components/go-to.ts';
import { isTyping } from '../components/is-typing.ts';
import { openKeys, useKeysOpen } from './open-keys.ts';
import { commandOf } from './pressed.ts';

/** The sheet comes when it is first asked for. */
const Dialog = lazy(async () => ({ default: (await import('./keys-dialog.tsx')).KeysDialog }));

/** One key, or the palette, opens the sheet of all keys. */
export function Keys() {
  const open = useKeysOpen((s) => s.open);
  useGoing();
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.defaultPrevented || isTyping(e.target) || commandOf(e, 'anywhere') !== 'keys') return;
      e.preventDefault();
      openKeys();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
  return <Suspense>{open && <Dialog />}</Suspense>;
}
