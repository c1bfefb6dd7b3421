import type { Operation } from './operation.ts';
import { controllersAdjust } from './controllers/adjust/operation.ts';
import { controllersDraw } from './controllers/draw/operation.ts';
import { controllersPark } from './controllers/park/operation.ts';
import { controllersReset } from './controllers/reset/operation.ts';
import { controllersSettle } from './controllers/settle/operation.ts';
import { controllersSmooth } from './controllers/smooth/operation.ts';
import { controllersThin } from './controllers/thin/operation.ts';
import { controllersUnpark } from './controllers/unpark/operation.ts';
import { controllersWrite } from './controllers/write/operation.ts';
import { eventsDelete } from './events/delete/operation.ts';
import { eventsEdit } from './events/edit/operation.ts';
import { eventsEditSeveral } from './events/edit-several/operation.ts';
import { eventsInsert } from './events/insert/operation.ts';
import { eventsKeepNotes } from './events/keep-notes/operation.ts';
import { eventsRemove } from './events/remove/operation.ts';
import { notesDraw } from './notes/draw/operation.ts';
import { notesHumanise } from './notes/humanise/operation.ts';
import { notesLengths } from './notes/lengths/operation.ts';
import { notesPulse } from './notes/pulse/operation.ts';
import { notesQuantise } from './notes/quantise/operation.ts';
import { notesRemove } from './notes/remove/operation.ts';
import { notesRepair } from './notes/repair/operation.ts';
import { notesScaleTime } from './notes/scale-time/operation.ts';
import { notesShift } from './notes/shift/operation.ts';
import { notesTranspose } from './notes/transpose/operation.ts';
import type { Recipe, RecipeStep } from './recipe/run/recipe.ts';
import { upgraded } from './run-with.ts';
import { recipeRun } from './recipe/run/operation.ts';
import { songEncoding } from './song/encoding/operation.ts';
import { songName } from './song/name/operation.ts';
import { timingClick } from './timing/click/operation.ts';
import { timingFit } from './timing/fit/operation.ts';
import { timingKey } from './timing/key/operation.ts';
import { timingLeadIn } from './timing/lead-in/operation.ts';
import { timingMarker } from './timing/marker/operation.ts';
import { timingMarks } from './timing/marks/operation.ts';
import { timingMeter } from './timing/meter/operation.ts';
import { timingPlaces } from './timing/places/operation.ts';
import { timingRamp } from './timing/ramp/operation.ts';
import { timingResolution } from './timing/resolution/operation.ts';
import { timingSection } from './timing/section/operation.ts';
import { timingSections } from './timing/sections/operation.ts';
import { timingTempo } from './timing/tempo/operation.ts';
import { timingTempos } from './timing/tempos/operation.ts';
import { timingThinTempo } from './timing/thin-tempo/operation.ts';
import { timingTimecode } from './timing/timecode/operation.ts';
import { timingToQuarters } from './timing/to-quarters/operation.ts';
import { timingTidy } from './timing/tidy/operation.ts';
import { tracksChannel } from './tracks/channel/operation.ts';
import { tracksMerge } from './tracks/merge/operation.ts';
import { tracksRemove } from './tracks/remove/operation.ts';
import { tracksRemoveEmpty } from './tracks/remove-empty/operation.ts';
import { tracksRename } from './tracks/rename/operation.ts';
import { tracksReorder } from './tracks/reorder/operation.ts';
import { tracksSplitByChannel } from './tracks/split-by-channel/operation.ts';
import { tracksSplitByDrum } from './tracks/split-by-drum/operation.ts';
import { tracksSplitByPitch } from './tracks/split-by-pitch/operation.ts';
import { tracksSplitByVoice } from './tracks/split-by-voice/operation.ts';
import { tracksUnique } from './tracks/unique/operation.ts';
import { velocityAccent } from './velocity/accent/operation.ts';
import { velocityCompress } from './velocity/compress/operation.ts';
import { velocityRamp } from './velocity/ramp/operation.ts';
import { tracksBringIn } from './tracks/bring-in/operation.ts';
import { velocityRandomise } from './velocity/randomise/operation.ts';
import { velocitySet } from './velocity/set/operation.ts';
import { velocityStroke } from './velocity/stroke/operation.ts';
import { velocityWiden } from './velocity/widen/operation.ts';
import { controllersBendRange } from './controllers/bend-range/operation.ts';
import { controllersTidy } from './controllers/tidy/operation.ts';
import { notesNudge } from './notes/nudge/operation.ts';
import { timingLength } from './timing/length/operation.ts';
import { timingSnap } from './timing/snap/operation.ts';
import { tracksInstrument } from './tracks/instrument/operation.ts';
import { barsCut } from './bars/cut/operation.ts';
import { barsClear } from './bars/clear/operation.ts';
import { barsInsert } from './bars/insert/operation.ts';
import { barsMove } from './bars/move/operation.ts';
import { barsCopy } from './bars/copy/operation.ts';
import { barsRepeat } from './bars/repeat/operation.ts';
import { barsReverse } from './bars/reverse/operation.ts';
import { barsOrder } from './bars/order/operation.ts';
import { barsStretch } from './bars/stretch/operation.ts';
import { barsFill } from './bars/fill/operation.ts';
import { tracksSplitAt } from './tracks/split-at/operation.ts';
import { tracksJoin } from './tracks/join/operation.ts';
import { notesToTrack } from './notes/to-track/operation.ts';
import { notesStrum } from './notes/strum/operation.ts';
import { notesDouble } from './notes/double/operation.ts';
import { notesShare } from './notes/share/operation.ts';
import { notesLine } from './notes/line/operation.ts';
import { notesVoicing } from './notes/voicing/operation.ts';
import { notesLegato } from './notes/legato/operation.ts';
import { chordsSet } from './chords/set/operation.ts';
import { chordsApply } from './chords/apply/operation.ts';
import { stepsFault } from './recipe/run/check-steps.ts';
import type { Problem } from '../problems/problems.ts';

/**
 * Every operation but recipes, in the order in which they are offered. Adding one is a folder and a line
 * here; ids never vanish.
 */
const single: readonly Operation[] = [
  songName,
  songEncoding,
  timingTempo,
  timingFit,
  timingRamp,
  timingThinTempo,
  timingMeter,
  timingKey,
  timingMarker,
  timingSection,
  timingSections,
  timingSnap,
  timingLength,
  timingLeadIn,
  timingTimecode,
  timingResolution,
  timingToQuarters,
  timingClick,
  timingTidy,
  timingPlaces,
  timingMarks,
  timingTempos,
  barsCut,
  barsClear,
  barsInsert,
  barsMove,
  barsCopy,
  barsRepeat,
  barsReverse,
  barsStretch,
  barsFill,
  barsOrder,
  tracksBringIn,
  tracksRename,
  tracksUnique,
  tracksReorder,
  tracksRemove,
  tracksRemoveEmpty,
  tracksMerge,
  tracksSplitByChannel,
  tracksSplitByPitch,
  tracksSplitByVoice,
  tracksSplitByDrum,
  tracksSplitAt,
  tracksJoin,
  tracksChannel,
  eventsKeepNotes,
  eventsRemove,
  eventsDelete,
  eventsInsert,
  eventsEdit,
  eventsEditSeveral,
  controllersThin,
  controllersTidy,
  controllersSmooth,
  controllersAdjust,
  controllersDraw,
  controllersSettle,
  controllersReset,
  controllersBendRange,
  controllersPark,
  controllersUnpark,
  controllersWrite,
  velocityWiden,
  velocityCompress,
  velocitySet,
  velocityRandomise,
  velocityAccent,
  velocityRamp,
  velocityStroke,
  notesTranspose,
  notesQuantise,
  notesLengths,
  notesHumanise,
  notesNudge,
  notesRepair,
  notesRemove,
  notesPulse,
  notesStrum,
  notesLegato,
  notesDouble,
  notesShare,
  notesLine,
  notesVoicing,
  chordsSet,
  chordsApply,
  notesToTrack,
  notesScaleTime,
  notesShift,
  notesDraw,
  tracksInstrument,
];

/** Every operation there is. A recipe is one too: a run of the others. */
export const operations: readonly Operation[] = [...single, recipeRun(single)];

/** What of a recipe no song can take, see `stepsFault`. A recipe is no step of another. */
export const recipeFault = ({ steps }: Pick<Recipe, 'steps'>, field: string): Problem | undefined =>
  stepsFault(single, steps, `${field}.steps`);

/** A step that was kept, with its settings as the operation takes them now; of an operation that is gone as it is. */
export function stepNow(step: RecipeStep): RecipeStep {
  const operation = operations.find((o) => o.id === step.operation);
  return operation
    ? {
        ...step,
        version: operation.version,
        settings: upgraded(operation, step.settings, step.version) as RecipeStep['settings'],
      }
    : step;
}
