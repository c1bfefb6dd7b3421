// @vitest-environment jsdom
import { renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { SongView } from '#contracts/songs.ts';
import {
  hearAgain,
  howHeard,
  isHeard,
  toggleHeard,
  useHearing,
  useHeardTracks,
} from './hearing.ts';

const song = (...ids: string[]) =>
  ({ id: 's', tracks: ids.map((id) => ({ id })) }) as unknown as SongView;
const heard = (of = song('a', 'b', 'c')) => renderHook(() => useHeardTracks(of)).result.current;
const ways = () => ['a', 'b', 'c'].map((t) => howHeard(heard(), t));

beforeEach(() => {
  useHearing.setState({ songs: {} });
  localStorage.clear();
});

describe('which tracks are heard', () => {
  it('silenced ones are not; the same again takes it back; several become what all of them are not yet', () => {
    toggleHeard('s', 'silent', ['a']);
    expect(ways()).toEqual(['silent', 'heard', 'heard']);
    toggleHeard('s', 'silent', ['a', 'b']);
    expect(ways()).toEqual(['silent', 'silent', 'heard']);
    toggleHeard('s', 'silent', ['a', 'b']);
    expect(ways()).toEqual(['heard', 'heard', 'heard']);
  });

  it('where some are heard alone all others are silent, also those that were not silenced', () => {
    toggleHeard('s', 'silent', ['a']);
    toggleHeard('s', 'alone', ['b']);
    expect(ways()).toEqual(['silent', 'alone', 'silent']);
    hearAgain('s', ['b']);
    expect(ways()).toEqual(['silent', 'heard', 'heard']);
  });

  it('one that was heard alone and is removed silences nobody', () => {
    toggleHeard('s', 'alone', ['c']);
    expect(isHeard(heard(song('a', 'b')), 'a')).toBe(true);
    expect(isHeard(heard(), 'a')).toBe(false);
  });

  it('is kept by song, for the last hundred of them, and of no other', () => {
    for (let n = 0; n < 130; n++) toggleHeard(`song ${n}`, 'silent', ['a']);
    toggleHeard('s', 'silent', ['a']);
    const kept = JSON.parse(localStorage.getItem('hearing')!) as Record<string, unknown>;
    expect(Object.keys(kept)).toHaveLength(100);
    expect(kept.s).toEqual({ silent: ['a'], alone: [] });
    expect(heard({ ...song('a'), id: 'other' } as SongView).silent).toEqual([]);
  });
});
