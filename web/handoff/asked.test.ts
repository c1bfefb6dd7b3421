import { describe, expect, it } from 'vitest';
import { handoffSettings } from '#core/handoff/settings.ts';
import { usualHanding } from '../state/handing-off.ts';
import { askedOf } from './asked.ts';
import { outgoing } from './drag-out.ts';

const nothing = { tracks: new Set<string>(), bars: undefined };

describe('what the page asks for', () => {
  it('where nothing is set, it is what the server takes where nothing is said', () => {
    expect(handoffSettings.parse(askedOf(usualHanding, nothing))).toEqual(
      handoffSettings.parse({}),
    );
  });

  it('has the scope’s bars and tracks where they are wanted, and everything where there are none any more', () => {
    const handing = { ...usualHanding, ofBars: 'scope', ofTracks: 'selected' } as const;
    const selected = { tracks: new Set(['t2']), bars: { from: 3, to: 4 } };
    expect(askedOf(handing, selected)).toMatchObject({
      scope: { bars: { from: 3, to: 4 } },
      tracks: ['t2'],
    });
    expect(askedOf(handing, nothing)).not.toHaveProperty('scope');
    expect(askedOf(handing, nothing)).not.toHaveProperty('tracks');
  });

  it('has groups by the names that were typed, whatever blanks are around them', () => {
    const groupOf = { t2: 'Winds', t3: ' Winds ', t4: '', t5: 'Keys' };
    expect(askedOf({ ...usualHanding, divide: 'groups', groupOf }, nothing).groups).toEqual([
      { name: 'Winds', tracks: ['t2', 't3'] },
      { name: 'Keys', tracks: ['t5'] },
    ]);
  });

  it('is an address with a safe name, which says all that is asked for', () => {
    const { name, address, type } = outgoing('id', 'Lead/Solo', { tracks: ['t2'] });
    expect([name, type]).toEqual(['Lead Solo.mid', 'audio/midi']);
    const query = new URL(address, 'http://x').searchParams;
    expect(JSON.parse(query.get('settings')!)).toEqual({ tracks: ['t2'] });
  });
});
