import { useEffect } from 'react';
import { urlOf } from '#contracts/addresses.ts';
import type { PreferencesView } from '#contracts/preferences.ts';
import { asKept, takeKept, usePreferences } from '../state/preferences.ts';
import { call, problemOf } from './client.ts';
import { showProblem } from './queries.ts';

/** How long nothing is changed before it is kept. */
const restMs = 400;

const same = (a: PreferencesView, b: PreferencesView): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

/**
 * Keeps what the reader prefers on the server, and takes what is kept there when the page opens. Keys that the
 * server refuses are as they were kept again, and why is said.
 */
export function usePreferencesKept(): void {
  useEffect(() => {
    let kept: PreferencesView | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const keep = async (): Promise<void> => {
      const now = asKept();
      if (!kept || same(now, kept)) return;
      try {
        await call('keepPreferences', { body: now });
        kept = now;
      } catch (error) {
        showProblem(error);
        // What could not be kept for now is kept here, and with the next change.
        if (problemOf(error).code === 'key-clash') takeKept({ ...now, keys: kept.keys });
      }
    };
    const later = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => void keep(), restMs);
    };
    // A page that closes keeps what was changed a moment before.
    const leave = (): void => {
      const now = asKept();
      if (!kept || same(now, kept)) return;
      clearTimeout(timer);
      void fetch(urlOf('keepPreferences', {}), {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(now),
        keepalive: true,
      }).catch(() => undefined);
    };
    addEventListener('pagehide', leave);
    const stop = usePreferences.subscribe(later);
    void call('getPreferences').then(
      (had) => {
        takeKept(had);
        kept = asKept();
      },
      // The next page that opens asks again; nothing is kept until it is known what is.
      () => undefined,
    );
    return () => {
      stop();
      removeEventListener('pagehide', leave);
      clearTimeout(timer);
    };
  }, []);
}
