import { Check } from '../../fields/check.tsx';
import { Radios } from '../../fields/radios.tsx';
import type { Handing } from '../../state/handing-off.ts';
import { alike, type Setting } from './handing.ts';
import { Part } from './part.tsx';

const notes: readonly { value: Handing['edges']['notes']; says: string; about: string }[] = [
  { value: 'cut', says: 'Cut', about: 'they end with the bars' },
  { value: 'keep', says: 'Kept whole', about: 'the file is longer by what rings' },
  { value: 'again', says: 'Struck again', about: 'cut, and struck on the next file’s first tick' },
];

/** What becomes of notes that ring over an end, and of bars before the music. */
export function EdgesPart({ handing, base, change }: Setting) {
  const { edges } = handing;
  const now = notes.find((n) => n.value === edges.notes)!;
  return (
    <Part
      name="Edges"
      says={`ringing notes ${now.says.toLowerCase()}${edges.leadIn ? '' : ', no bars before the music'}`}
      changed={!alike(edges, base.edges)}
    >
      <p className="text-[12.5px] text-faint">Notes that ring over the end of a file</p>
      <Radios
        label="Notes that ring over the end of a file"
        value={edges.notes}
        options={notes.map(({ value, says, about }) => ({
          value,
          says,
          about: <span className="text-[12.5px] text-faint">, {about}</span>,
        }))}
        set={(said) => change({ edges: { ...edges, notes: said } })}
      />
      <Check
        checked={edges.leadIn}
        set={(leadIn) => change({ edges: { ...edges, leadIn } })}
        says="Without them a file begins with the bar of the first note; the gap before the note in that bar stays."
      >
        Bars before the music
      </Check>
    </Part>
  );
}
