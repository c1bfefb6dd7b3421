import { controllerName } from '#core/instruments/controllers.ts';
import { programNames } from '#core/instruments/general-midi.ts';
import type { TrackSummary } from '#core/song/summary.ts';
import { channelNumber } from '#core/units/units.ts';
import type { TrackView } from './songs.ts';

/** What a track carries as the API shows it: channels and programs from 1. */
export function trackView(track: TrackSummary, sha256: string): TrackView {
  const channels = track.channels.map(channelNumber);
  return {
    ...track,
    channels,
    channel: channels.length === 1 ? channels[0]! : null,
    programs: track.programs.map((p) => ({
      ...p,
      channel: channelNumber(p.channel),
      program: p.program + 1,
      name: p.channel === 9 ? 'Drum kit' : programNames[p.program]!,
    })),
    controllers: track.controllers.map((c) => ({ ...c, name: controllerName(c.controller) })),
    counts: { events: track.events, notes: track.notes, ...track.counts },
    sha256,
  };
}
