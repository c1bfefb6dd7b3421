import { describe, expect, it } from 'vitest';
import {
  clashIn,
  fixedKeys,
  isBrowsersOwn,
  keyCommandIds,
  keyCommands,
  takenBy,
} from './key-commands.ts';

describe('keys', () => {
  it('as they come clash with nothing: neither with each other nor with what is fixed or the browser’s', () => {
    for (const id of keyCommandIds)
      for (const key of keyCommands[id].keys)
        expect([id, key, takenBy(id, key, {})]).toEqual([id, key, undefined]);
  });

  it('of two views may be the same, of a song and a view not', () => {
    expect(takenBy('harmony-take', '+', {})).toBeUndefined();
    expect(takenBy('sheet-instrument', 'P', {})).toBe('“Play or pause”');
    expect(takenBy('play', 'I', {})).toBe('“Choose what plays the track”');
    // The key that was changed is free, and the one it has is not.
    expect(takenBy('sheet-instrument', 'P', { play: 'J' })).toBeUndefined();
    expect(takenBy('sheet-instrument', 'J', { play: 'J' })).toBe('“Play or pause”');
    expect(clashIn({ play: 'J', loop: 'J' })).toMatchObject({ id: 'play', key: 'J' });
    expect(clashIn({ play: 'J' })).toBeUndefined();
  });

  it('of browsers are none (common practice: what Firefox and Chromium do on Linux, Windows and macOS)', () => {
    for (const key of [
      'Ctrl+T',
      'Ctrl+W',
      'Ctrl+Shift+T',
      'F5',
      'Ctrl+R',
      'Ctrl+L',
      'Alt+ArrowLeft',
      'Ctrl+Tab',
      'Ctrl+1',
      'Ctrl+-',
      'F11',
    ])
      expect([key, isBrowsersOwn(key)]).toEqual([key, true]);
    for (const key of ['Ctrl+Z', 'Alt+ArrowUp', 'J', 'Shift+J', 'F2', '?', 'Shift+Delete'])
      expect([key, isBrowsersOwn(key)]).toEqual([key, false]);
  });

  it('that are fixed are nobody’s else', () => {
    for (const { place, keys } of fixedKeys)
      for (const id of keyCommandIds)
        if (keyCommands[id].place === place)
          for (const key of keys) expect(takenBy(id, key, {})).toBeDefined();
  });
});
