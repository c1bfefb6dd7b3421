import { counted } from '../edit/rewrite.ts';
import { percussionChannel } from '../instruments/general-midi.ts';
import { soundName } from '../instruments/sounds.ts';
import { firstProgram } from '../song/played-by.ts';
import { onTracks, type Settling } from './finding.ts';
import type { LookedTrack } from './view.ts';

/** Takes a whole part out: the step says which, how many notes it has, and what plays them. */
export const removal = (part: LookedTrack): Settling => ({
  title: `Remove ${part.label}: ${counted(part.notes.count, 'note')}, ${playerOf(part)}`,
  operation: 'tracks.remove',
  settings: {},
  scope: onTracks(part.id),
});

/** What plays a part, as its definition or its first program says. */
function playerOf({ track: { events, instrument } }: LookedTrack): string {
  if (instrument) return instrument.name;
  const said = firstProgram(events);
  return said
    ? soundName({ program: said.program, bank: null }, said.channel === percussionChannel)
    : 'no program';
}
