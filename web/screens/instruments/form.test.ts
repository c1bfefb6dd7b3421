import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alongInstruments } from '#core/instruments/along/along.ts';
import { definitionSchema } from '#core/instruments/definition.ts';
import { keyName, parseKeyName } from '#core/units/units.ts';
import { definitionOf, formOf } from './form.ts';
import { controllersText, keysText, readControllers, readKeys } from './lines.ts';

const blank = definitionSchema.parse({ name: 'X' });
const made = (over: Partial<ReturnType<typeof formOf>>) =>
  definitionOf({ ...formOf(blank, 4), ...over }, blank, 4);

describe('the form of an instrument', () => {
  it('says every instrument that comes along as it is, whatever middle C is called', () => {
    for (const { definition } of alongInstruments)
      for (const middleC of [3, 4, 5])
        expect(definitionOf(formOf(definition, middleC), definition, middleC)).toEqual({
          ok: true,
          value: definition,
        });
  });

  it('takes keys by name or number, banks by both controllers or as one number', () => {
    const got = made({ lowest: 'F#3', highest: '84', sends: true, program: '5', bank: '81/2' });
    expect(got.ok && [got.value.playable, got.value.sends]).toEqual([
      { lowest: 54, highest: 84 },
      { program: 5, bank: 81 * 128 + 2 },
    ]);
  });

  it.each([
    [{ name: ' ' }, 'A name'],
    [{ lowest: 'H2', highest: 'C4' }, 'Range: two keys'],
    [{ lowest: 'C5', highest: 'C4' }, 'the lowest key is above'],
    [{ lowest: 'C4', highest: 'C5', easyLowest: 'C3', easyHighest: 'C4' }, 'comfortable keys lie'],
    [{ voices: 'two' }, 'Voices'],
    [{ sends: true, program: '200' }, 'Sent program'],
    [{ sends: true, bank: '200/1' }, 'Bank'],
    [{ keys: '36 Kick\nSnare' }, 'Line 2, “Snare”'],
    [{ keys: '36 Kick\nC2 Boom' }, 'two names'],
    [{ controllers: 'Vibrato' }, 'Line 1'],
  ])('%j: says what is wrong', (over, why) => {
    const got = made(over);
    expect(got.ok ? '' : got.why).toContain(why);
  });

  it('keeps names that lines cannot say exactly, as long as nobody touches them', () => {
    const odd = definitionSchema.parse({
      name: 'X',
      controllers: [{ number: 1, name: 'A: 1 b; 2 c', values: [] }],
    });
    const got = definitionOf({ ...formOf(odd, 4), name: 'Y' }, odd, 4);
    expect(got.ok && got.value.controllers).toEqual(odd.controllers);
  });
});

describe('lines of names', () => {
  it('read back as they were written', () => {
    const keys = [
      { key: 36, name: 'Kick drum' },
      { key: 0, name: '8' },
    ];
    expect(readKeys(keysText(keys), 4)).toEqual({ ok: true, rows: keys });
    const controllers = [
      {
        kind: 'NRPN' as const,
        number: 300,
        name: 'Air',
        values: [
          { value: 0, name: 'no air' },
          { value: 64, name: 'half' },
        ],
      },
      { kind: '7-bit' as const, number: 1, name: 'Vibrato 2', values: [] },
    ];
    expect(readControllers(controllersText(controllers))).toEqual({ ok: true, rows: controllers });
  });

  it('every key is read back from its name', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 127 }), fc.constantFrom(3, 4, 5), (key, middleC) => {
        expect(parseKeyName(keyName(key, middleC), middleC)).toBe(key);
      }),
    );
    expect(['Cb4', 'B#3', 'C-2', 'H1', 'C'].map((name) => parseKeyName(name))).toEqual([
      59,
      60,
      undefined,
      undefined,
      undefined,
    ]);
  });
});
