import { expect, it, vi } from 'vitest';
import { wayOut, wayOutForFiles } from './ways-out.ts';

it('leads out where the page can do what the remedy says', () => {
  const again = vi.fn();
  expect(wayOut({ code: 'database-away' }, again)?.label).toBe('Try again');
  expect(wayOut({ code: 'unreachable' }, again)?.label).toBe('Try again');
  expect(wayOut({ code: 'revision-stale' }, again)?.label).toBe('Take it on the song as it is');
  expect(wayOut({ code: 'song-unknown' })?.label).toBe('To the songs');
  expect(wayOut({ code: 'bars-behind-end' })?.label).toBe('All bars');
  expect(wayOut({ code: 'database-away' })).toBeUndefined();
  // Only whoever sent the file can do something about it.
  expect(wayOut({ code: 'file-empty' }, again)).toBeUndefined();
});

it('sends files again where what stood in their way may be over, and has others chosen where not', () => {
  const take = vi.fn();
  const files = [new File(['x'], 'x.mid')];
  const again = wayOutForFiles({ code: 'no-room' }, files, take);
  expect(again.label).toBe('Try again');
  again.onClick();
  expect(take).toHaveBeenCalledWith(files);
  expect(wayOutForFiles({ code: 'file-empty' }, files, take).label).toBe('Choose again …');
});
