// @vitest-environment jsdom
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { costRatio } from '../../../tests/support/cost.ts';
import { isDeep, scaleRuns } from '../../../tests/support/scale.ts';
import { definitionSchema, type InstrumentDefinition } from '../definition.ts';
import { readInstruments } from '../read-file.ts';
import { laidOver, readMidnam } from './read.ts';
import { lostInMidnam, writeMidnam } from './write.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (text: string) => {
  const result = readMidnam(bytes(text));
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
};
const problem = (text: string) => {
  const result = readInstruments(bytes(text));
  return result.ok ? undefined : result.problem;
};

/**
 * A document as the DTD has it, written by hand (from memory): lists inside patches and shared ones, a bank
 * by commands, a kit on channel 10.
 */
const byHand = `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE MIDINameDocument PUBLIC "-//MIDI Manufacturers Association//DTD MIDINameDocument 1.0//EN" "http://example.invalid/never-fetched.dtd">
<MIDINameDocument>
  <Author>A hand</Author>
  <MasterDeviceNames>
    <Manufacturer>Lumen &amp; Daughters</Manufacturer>
    <Model>Tin Whistle Engine</Model>
    <CustomDeviceMode Name="Usual"><ChannelNameSetAssignments>
      <ChannelNameSetAssign Channel="1" NameSet="Tones"/><ChannelNameSetAssign Channel="10" NameSet="Beats"/>
    </ChannelNameSetAssignments></CustomDeviceMode>
    <ChannelNameSet Name="Tones">
      <UsesControlNameList Name="Wheels"/>
      <PatchBank Name="A">
        <MIDICommands><ControlChange Control="0" Value="81"/><ControlChange Control="32" Value="2"/></MIDICommands>
        <PatchNameList Name="A patches">
          <Patch Number="A1" Name="Low whistle" ProgramChange="4"/>
          <Patch Number="A7" Name="High whistle" ProgramChange="10">
            <PatchMIDICommands><ControlChange Control="32" Value="3"/></PatchMIDICommands>
            <ControlNameList Name="Own"><Control Type="NRPN" Number="300" Name="Breathiness"/></ControlNameList>
          </Patch>
        </PatchNameList>
      </PatchBank>
    </ChannelNameSet>
    <ChannelNameSet Name="Beats">
      <UsesNoteNameList Name="Beats of tin"/>
      <PatchBank Name="B"><UsesPatchNameList Name="Kits"/></PatchBank>
    </ChannelNameSet>
    <PatchNameList Name="Kits"><Patch Number="1" Name="Tin kit" ProgramChange="0"/></PatchNameList>
    <NoteNameList Name="Beats of tin">
      <NoteGroup Name="Drums"><Note Number="36" Name="Pot"/><Note Number="38" Name="Pan"/></NoteGroup>
    </NoteNameList>
    <ControlNameList Name="Wheels">
      <Control Type="7bit" Number="1" Name="Vibrato"><Values Min="0" Max="127"><ValueNames Name="v"><Value Number="0" Name="none"/></ValueNames></Values></Control>
    </ControlNameList>
    <SupportsStandardDeviceMode Name="General MIDI"/>
  </MasterDeviceNames>
</MIDINameDocument>`;

describe('a document written by hand', () => {
  it('gives each patch with its bank, program, keys and controllers, worked out by hand', () => {
    const { instruments, told } = read(byHand);
    expect(
      instruments.map(({ name, maker, model, label, drums, sends }) => ({
        name,
        maker,
        model,
        label,
        drums,
        sends,
      })),
    ).toEqual([
      {
        name: 'Low whistle',
        maker: 'Lumen & Daughters',
        model: 'Tin Whistle Engine',
        label: 'A1',
        drums: false,
        sends: { program: 5, bank: 81 * 128 + 2 },
      },
      {
        name: 'High whistle',
        maker: 'Lumen & Daughters',
        model: 'Tin Whistle Engine',
        label: 'A7',
        drums: false,
        sends: { program: 11, bank: 81 * 128 + 3 },
      },
      {
        name: 'Tin kit',
        maker: 'Lumen & Daughters',
        model: 'Tin Whistle Engine',
        label: '1',
        drums: true,
        sends: { program: 1, bank: null },
      },
    ]);
    expect(instruments[0]!.controllers).toEqual([
      { kind: '7-bit', number: 1, name: 'Vibrato', values: [{ value: 0, name: 'none' }] },
    ]);
    expect(instruments[1]!.controllers).toEqual([
      { kind: 'NRPN', number: 300, name: 'Breathiness', values: [] },
    ]);
    expect(instruments[2]!.keys).toEqual([
      { key: 36, name: 'Pot' },
      { key: 38, name: 'Pan' },
    ]);
    expect(told).toEqual(['1 SupportsStandardDeviceMode: a definition has no place for it.']);
  });
});

const text = (max: number) =>
  fc
    .string({ unit: fc.constantFrom(...'abc ÄßЖ漢&<>"\'/]'), minLength: 1, maxLength: max })
    .filter((s) => s.trim() !== '');
const uniqueBy = <T>(arbitrary: fc.Arbitrary<T>, selector: (t: T) => unknown) =>
  fc.uniqueArray(arbitrary, { maxLength: 5, selector });
/** What a document can hold, at random; of one device. */
const held = fc
  .record({
    name: text(12),
    label: text(5),
    drums: fc.boolean(),
    sends: fc.record({
      program: fc.integer({ min: 1, max: 128 }),
      bank: fc.option(fc.integer({ min: 0, max: 16_383 }), { nil: null }),
    }),
    keys: uniqueBy(
      fc.record({ key: fc.integer({ min: 0, max: 127 }), name: text(8) }),
      (k) => k.key,
    ),
    controllers: uniqueBy(
      fc.record({
        kind: fc.constantFrom('7-bit', '14-bit', 'RPN', 'NRPN'),
        number: fc.integer({ min: 0, max: 16_383 }),
        name: text(8),
        values: uniqueBy(
          fc.record({ value: fc.integer({ min: 0, max: 127 }), name: text(6) }),
          (v) => v.value,
        ),
      }),
      (c) => `${c.kind} ${c.number}`,
    ),
  })
  .map((given) => definitionSchema.parse({ ...given, maker: 'M & Sons', model: '<X>' }));

const whatIsHeld = ({
  name,
  maker,
  model,
  label,
  drums,
  sends,
  keys,
  controllers,
}: InstrumentDefinition) => ({
  name,
  maker,
  model,
  label,
  drums,
  sends,
  keys,
  controllers,
});
const inOrder = (list: readonly InstrumentDefinition[]) =>
  list.map((d) => JSON.stringify(whatIsHeld(d))).sort();

describe('documents out and in', () => {
  it('give all that such a document holds, whatever is in it', () => {
    fc.assert(
      fc.property(fc.array(held, { minLength: 1, maxLength: 6 }), (definitions) => {
        const { instruments, told } = read(writeMidnam(definitions));
        expect(inOrder(instruments)).toEqual(inOrder(definitions));
        expect(told).toEqual([]);
      }),
      { numRuns: scaleRuns(300) },
    );
  });

  it('are well-formed for another parser (jsdom), the kit on channel 10 alone', () => {
    const kit = definitionSchema.parse({
      name: 'Tin “kit” <1>',
      drums: true,
      keys: [{ key: 36, name: 'Pot & pan' }],
    });
    const document = new DOMParser().parseFromString(
      writeMidnam([kit, definitionSchema.parse({ name: 'Whistle' })]),
      'application/xml',
    );
    expect(document.documentElement.tagName).toBe('MIDINameDocument');
    expect([...document.querySelectorAll('Patch')].map((p) => p.getAttribute('Name'))).toEqual([
      'Whistle',
      'Tin “kit” <1>',
    ]);
    expect(document.querySelector('Note')?.getAttribute('Name')).toBe('Pot & pan');
    expect(
      [
        ...document.querySelectorAll('ChannelNameSet[Name=Kits] AvailableChannel[Available=true]'),
      ].map((c) => c.getAttribute('Channel')),
    ).toEqual(['10']);
    expect(
      document.querySelector('ChannelNameSetAssign[Channel="10"]')?.getAttribute('NameSet'),
    ).toBe('Kits');
  });

  it('what they cannot hold is said before, and kept when one is laid over', () => {
    const violin = definitionSchema.parse({
      name: 'Violin',
      maker: 'M',
      model: 'X',
      playable: { lowest: 55, highest: 100 },
      voices: 2,
      transposition: -2,
      clef: 'alto',
      source: 'by hand',
      program: 41,
    });
    expect(lostInMidnam([violin])).toEqual([
      'The range of Violin.',
      'The number of voices of Violin.',
      'The transposition of Violin.',
      'The clef of Violin.',
      'The source of Violin.',
    ]);
    expect(lostInMidnam([definitionSchema.parse({ name: 'Plain' })])).toEqual([]);
    const [back] = read(
      writeMidnam([
        { ...violin, controllers: [{ kind: '7-bit', number: 2, name: 'Bow', values: [] }] },
      ]),
    ).instruments;
    expect(laidOver(violin, back!)).toEqual({
      ...violin,
      label: '41',
      sends: { program: 41, bank: null },
      controllers: [{ kind: '7-bit', number: 2, name: 'Bow', values: [] }],
    });
  });
});

describe('what is none', () => {
  it.each([
    ['no XML and no JSON', 'MThd', 'neither JSON nor XML'],
    ['another document', '<score/>', 'its first element is score'],
    ['a document without a patch', '<MIDINameDocument/>', 'it names no patch'],
    ['XML that is cut', byHand.slice(0, 900), 'unclosed tag'],
    [
      'an entity of its own',
      '<!DOCTYPE MIDINameDocument [<!ENTITY a "aaaa">]><MIDINameDocument>&a;</MIDINameDocument>',
      'an entity of its own',
    ],
    ['a bank that is none', '{"name":"X","sends":{"program":1,"bank":20000}}', 'sends.bank'],
    ['a field that nobody knows', '{"name":"X","colour":"red"}', 'colour'],
    ['a range upside down', '{"name":"X","playable":{"lowest":60,"highest":40}}', 'playable'],
    ['no name', '{"instruments":[{"name":" "}]}', 'instruments.0.name'],
  ])('%s: said', (_, given, why) => {
    expect(JSON.stringify(problem(given))).toContain(why);
  });

  it('a patch that cannot be taken is left out and said; the others are taken; a list with holes is one', () => {
    const long = 'x'.repeat(200);
    const { instruments, told } = read(
      `<MIDINameDocument><MasterDeviceNames><Model>X</Model><ChannelNameSet Name="s"><PatchBank Name="b"><MIDICommands><ControlChange Control="0" Value="200"/></MIDICommands><PatchNameList><Patch Number="1" Name="Bad bank" ProgramChange="1"/></PatchNameList></PatchBank><PatchBank Name="c"><PatchNameList><Patch Number="2" Name="${long}" ProgramChange="3"/><Patch Number="90" Name="Good" ProgramChange="89"/><Patch Number="91" Name="Without a program"/></PatchNameList></PatchBank></ChannelNameSet></MasterDeviceNames></MIDINameDocument>`,
    );
    expect(instruments.map((i) => i.name)).toEqual(['Good', 'Without a program']);
    expect(instruments[1]!.sends).toBeNull();
    expect(told).toHaveLength(2);
    expect(told[0]).toContain('Bad bank');
  });

  it('what would grow beyond all bounds is refused in words, and soon: entities within entities, patches by the ten thousands, lists that thousands use', () => {
    const lol = `<!DOCTYPE MIDINameDocument [<!ENTITY a "${'l'.repeat(10)}">${'bcdefgh'
      .split('')
      .map((c, i) => `<!ENTITY ${c} "${`&${'abcdefgh'[i]};`.repeat(10)}">`)
      .join('')}]><MIDINameDocument><Author>&h;</Author></MIDINameDocument>`;
    expect(problem(lol)?.code).toBe('xml-unreadable');
    const patches = (many: number, use = ''): string =>
      `<MIDINameDocument><MasterDeviceNames><ChannelNameSet Name="s"><PatchBank Name="b"><PatchNameList>${Array.from({ length: many }, (_, n) => `<Patch Number="${n}" Name="P ${n}" ProgramChange="${n % 128}">${use}</Patch>`).join('')}</PatchNameList></PatchBank></ChannelNameSet><ControlNameList Name="all">${Array.from({ length: 900 }, (_, n) => `<Control Type="NRPN" Number="${n}" Name="C ${n}"/>`).join('')}</ControlNameList></MasterDeviceNames></MIDINameDocument>`;
    expect(read(patches(5_000)).instruments).toHaveLength(5_000);
    expect(JSON.stringify(problem(patches(60_000)))).toContain('at most 5000');
    // One list that every patch uses would be copied four and a half million times.
    expect(JSON.stringify(problem(patches(5_000, '<UsesControlNameList Name="all"/>')))).toContain(
      '500000 names',
    );
    if (isDeep) {
      // Twelve times the text; and a list that is used costs no more than to say that it is too long.
      const [all, many, used] = [
        patches(5_000),
        patches(60_000),
        patches(5_000, '<UsesControlNameList Name="all"/>'),
      ];
      expect(
        costRatio(
          () => read(all),
          () => problem(many),
          40,
        ),
      ).toBeLessThan(40);
      expect(
        costRatio(
          () => read(all),
          () => problem(used),
          40,
        ),
      ).toBeLessThan(40);
    }
    const deep = `${'<a>'.repeat(100)}${'</a>'.repeat(100)}`;
    expect(JSON.stringify(problem(deep))).toContain('deep');
  });
});
