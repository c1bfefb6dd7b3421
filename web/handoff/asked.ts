import type { HandoffAsked } from '#core/handoff/settings.ts';
import type { Receiver } from '#core/handoff/receiver/receiver.ts';
import { settingsFor } from '#core/handoff/receiver/settings-for.ts';
import { factsOfView } from '#contracts/song-facts.ts';
import type { SongView } from '#contracts/songs.ts';
import { usualHanding, type Handing } from '../state/handing-off.ts';
import type { Bars } from '../state/scope.ts';

/** What is selected in a song. */
export interface Selected {
  readonly tracks: ReadonlySet<string>;
  readonly bars: Bars | undefined;
}

/**
 * The settings as the server is asked with. Bars and tracks of the scope that is gone are none: then
 * everything is meant.
 */
export function askedOf(
  { ofBars, ofTracks, groupOf, receiver: _, ...settings }: Handing,
  { tracks, bars }: Selected,
): HandoffAsked {
  return {
    ...settings,
    ...(ofBars === 'scope' && bars ? { scope: { bars } } : {}),
    ...(ofTracks === 'selected' && tracks.size > 0 ? { tracks: [...tracks] } : {}),
    groups: settings.divide === 'groups' ? groupsOf(groupOf) : [],
  };
}

/** Groups by the names that were typed beside tracks, in the order of their first. */
function groupsOf(groupOf: Readonly<Record<string, string>>): { name: string; tracks: string[] }[] {
  const groups = new Map<string, string[]>();
  for (const [track, said] of Object.entries(groupOf)) {
    const name = said.trim();
    if (name === '') continue;
    groups.set(name, [...(groups.get(name) ?? []), track]);
  }
  return [...groups].map(([name, tracks]) => ({ name, tracks }));
}

/** What is set where a receiver is chosen and nothing by hand; bars, tracks and groups stay as they are set. */
export function handingFor(
  receiver: (Receiver & { readonly id: string }) | undefined,
  song: SongView,
  {
    ofBars,
    ofTracks,
    groupOf,
    version,
  }: Pick<Handing, 'ofBars' | 'ofTracks' | 'groupOf' | 'version'>,
): Handing {
  const own = { ofBars, ofTracks, groupOf, ...(version === undefined ? {} : { version }) };
  if (!receiver) return { ...usualHanding, ...own };
  const asked = settingsFor(receiver, factsOfView(song));
  return { ...usualHanding, ...changesBy(usualHanding, asked), ...own, receiver: receiver.id };
}

/** What settings change of what is set: groups of settings one by one. */
export function changesBy(
  handing: Handing,
  { form, take, edges, tracks, scope, groups, ...rest }: HandoffAsked,
): Partial<Handing> {
  const { format, chunks, runningStatus, ...ofForm } = form ?? {};
  return {
    ...(rest as Partial<Handing>),
    ...(format === undefined ? {} : { format }),
    ...(chunks === undefined ? {} : { chunks }),
    ...(runningStatus === undefined ? {} : { runningStatus }),
    ...(form ? { form: { ...handing.form, ...ofForm } as Handing['form'] } : {}),
    ...(take ? { take: { ...handing.take, ...take } as Handing['take'] } : {}),
    ...(edges ? { edges: { ...handing.edges, ...edges } as Handing['edges'] } : {}),
    ...(tracks === 'all' ? { ofTracks: 'all' } : {}),
    ...(scope && !scope.bars ? { ofBars: 'all' } : {}),
    ...(groups ? { groupOf: {} } : {}),
  };
}
