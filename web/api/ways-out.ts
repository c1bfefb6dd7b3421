import type { ApiError } from '#contracts/errors.ts';
import type { Problem } from '#core/problems/problems.ts';
import { goTo } from '../components/go-to.ts';
import { pickFiles } from '../components/pick-files.ts';
import { openKeys } from '../keys/open-keys.ts';
import type { Way } from '../messages/messages.ts';
import { useScope } from '../state/scope.ts';

type Code = Problem['code'] | 'unreachable' | 'page-defect';

/** What passes by itself: the same may go through a moment later. */
const passing: ReadonlySet<string> = new Set<Code>([
  'unreachable',
  'busy',
  'database-away',
  'defect',
  'no-room',
  'work-stopped',
]);
/** What was asked of a song that is another by now: it may be asked of that. */
const overtaken: ReadonlySet<string> = new Set<Code>(['revision-stale']);

/** Where the page leads whoever was refused something that is no longer there, or has to be changed elsewhere. */
const elsewhere: Partial<Record<Code, readonly [label: string, path: string]>> = {
  'song-unknown': ['To the songs', '/'],
  'recipe-tracks-missing': ['To the recipes', '/recipes'],
  'recipe-unknown': ['To the recipes', '/recipes'],
  'recipe-shipped': ['To the recipes', '/recipes'],
  'receiver-unknown': ['To the receivers', '/receivers'],
  'receiver-shipped': ['To the receivers', '/receivers'],
  'instrument-unknown': ['To the instruments', '/instruments'],
  'instrument-along': ['To the instruments', '/instruments'],
  'clip-unknown': ['To the shelf', '/shelf'],
};

/** Whether the way out of it is another place of the page. */
export const leadsElsewhere = ({ code }: Pick<ApiError, 'code'>): boolean => code in elsewhere;

/** Bars that are not there, or that the step is not for. */
const ofBars: ReadonlySet<string> = new Set<Code>([
  'scope-behind-end',
  'bars-behind-end',
  'scope-has-bars',
]);

/**
 * What can be done about a refusal by a press, where its remedy is something that the page can do. `again` asks
 * for the same once more.
 */
export function wayOut({ code }: Pick<ApiError, 'code'>, again?: () => void): Way | undefined {
  const there = elsewhere[code as Code];
  if (there) return { label: there[0], onClick: () => goTo(there[1]) };
  if (code === 'key-clash') return { label: 'Open the keys', onClick: () => openKeys() };
  if (code === 'page-defect') return { label: 'Load again', onClick: () => location.reload() };
  if (ofBars.has(code))
    return { label: 'All bars', onClick: () => useScope.getState().span(undefined) };
  if (code === 'bars-clash')
    return { label: 'All tracks', onClick: () => useScope.getState().select([]) };
  if (!again) return undefined;
  if (passing.has(code)) return { label: 'Try again', onClick: again };
  if (overtaken.has(code)) return { label: 'Take it on the song as it is', onClick: again };
  return undefined;
}

/**
 * What can be done about files that were refused: the same once more where what stood in their way may be over,
 * else a look at the disk, where others are, or the same as they were mended meanwhile.
 */
export function wayOutForFiles(
  { code }: Pick<ApiError, 'code'>,
  files: readonly File[],
  take: (files: readonly File[]) => void,
): Way {
  return passing.has(code)
    ? { label: 'Try again', onClick: () => take(files) }
    : { label: 'Choose again …', onClick: () => pickFiles(take) };
}
