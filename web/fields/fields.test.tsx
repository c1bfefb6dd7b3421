// @vitest-environment jsdom
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { meterMap } from '#core/timing/meter-map.ts';
import { Check, CheckBox } from './check.tsx';
import { asSaid, Choice, type Option } from './choice.tsx';
import type { Field } from './field.ts';
import { firstError } from './first-error.ts';
import { nearestBar, PlaceField, tickIn } from './place-field.tsx';
import { placeSchema } from './place-schema.ts';
import { Pills } from './pills.tsx';
import { Radios } from './radios.tsx';
import { SchemaForm } from './schema-form.tsx';

beforeAll(() => {
  // What Radix asks of a browser and jsdom has not.
  Object.assign(Element.prototype, {
    hasPointerCapture: () => false,
    setPointerCapture: () => undefined,
    releasePointerCapture: () => undefined,
    scrollIntoView: () => undefined,
  });
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe(): void {}
      unobserve(): void {}
      disconnect(): void {}
    },
  );
});
afterEach(cleanup);

const colours: readonly Option<string>[] = [
  ['', 'none'],
  ['r', 'rust'],
  ['m', 'moss'],
];

/** A choice as a screen has it: what is chosen is shown. */
function Chosen({ heard, disabled = false }: { heard: (v: string) => void; disabled?: boolean }) {
  const [value, setValue] = useState<string>('r');
  const set = (v: string): void => {
    setValue(v);
    heard(v);
  };
  return <Choice label="Ink" value={value} options={colours} set={set} disabled={disabled} />;
}

describe('a choice', () => {
  it('closed, goes on and back with the arrow keys at once, and no further than its ends', async () => {
    const heard = vi.fn();
    render(<Chosen heard={heard} />);
    const field = screen.getByRole('combobox', { name: 'Ink' });
    field.focus();
    await userEvent.keyboard('{ArrowDown}{ArrowDown}{ArrowUp}{ArrowUp}{ArrowUp}');
    expect(heard.mock.calls.map(([v]) => v as string)).toEqual(['m', 'r', '']);
    expect(field.textContent).toContain('none');
    expect(screen.queryByRole('listbox')).toBeNull();
  });

  it('opens with Enter and takes what is pressed there, also where its value is empty', async () => {
    const heard = vi.fn();
    render(<Chosen heard={heard} />);
    screen.getByRole('combobox').focus();
    await userEvent.keyboard('{Enter}');
    const list = screen.getByRole('listbox');
    expect(
      within(list)
        .getAllByRole('option')
        .map((o) => o.textContent),
    ).toEqual(['none', 'rust', 'moss']);
    await userEvent.click(within(list).getByRole('option', { name: 'none' }));
    expect(heard.mock.calls).toEqual([['']]);
  });

  it('keeps its keys to itself, so that nothing around it goes along', async () => {
    const around = vi.fn();
    render(
      <div onKeyDown={(e) => around(e.key)}>
        <Chosen heard={() => undefined} />
      </div>,
    );
    screen.getByRole('combobox').focus();
    await userEvent.keyboard('{ArrowDown}{Escape}');
    expect(around.mock.calls).toEqual([['Escape']]);
  });

  it('that cannot be made does nothing', async () => {
    const heard = vi.fn();
    render(<Chosen heard={heard} disabled />);
    screen.getByRole('combobox').focus();
    await userEvent.keyboard('{ArrowDown}');
    expect(heard).not.toHaveBeenCalled();
  });

  it('gives numbers as numbers', async () => {
    const set = vi.fn();
    render(
      <Choice label="Octave" value={4} options={asSaid([3, 4, 5], (n) => `C${n}`)} set={set} />,
    );
    screen.getByRole('combobox').focus();
    await userEvent.keyboard('{ArrowDown}');
    expect(set.mock.calls).toEqual([[5]]);
  });
});

describe('checks, radios and pills', () => {
  it('a check is pressed by its words, too; a box in a row keeps the press from the row', async () => {
    const [set, row, box] = [vi.fn(), vi.fn(), vi.fn()];
    render(
      <>
        <Check checked={false} set={set} says="It goes along.">
          sent
        </Check>
        <div onClick={row}>
          <CheckBox label="Select" checked set={box} />
        </div>
      </>,
    );
    await userEvent.click(screen.getByText('sent'));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Select' }));
    expect([set.mock.calls, box.mock.calls, row.mock.calls.length]).toEqual([
      [[true]],
      [[false]],
      0,
    ]);
  });

  it('a radio is chosen by what it says', async () => {
    const set = vi.fn();
    const options = [
      { value: 'a', says: 'Added' },
      { value: 'b', says: 'Instead', about: 'of all' },
    ] as const;
    render(<Radios label="How" value="a" options={options} set={set} />);
    expect(
      screen.getByRole<HTMLElement>('radio', { name: 'Added' }).getAttribute('aria-checked'),
    ).toBe('true');
    await userEvent.click(screen.getByRole('radio', { name: /^Instead/ }));
    expect(set.mock.calls).toEqual([['b']]);
  });

  it('pills are in or out, each for itself', async () => {
    const set = vi.fn();
    render(
      <Pills
        label="Kinds"
        chosen={['x']}
        options={[
          ['x', 'bends'],
          ['y', 'banks'],
        ]}
        set={set}
      />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'banks' }));
    await userEvent.click(screen.getByRole('button', { name: 'bends' }));
    expect(set.mock.calls).toEqual([[['x', 'y']], [[]]]);
  });
});

/** A form of one operation's fields, which shows what is set. */
function Form({
  fields,
  heard,
  start = {},
  inRecipe = false,
}: {
  fields: Record<string, Field>;
  heard: (v: unknown) => void;
  start?: Record<string, unknown>;
  inRecipe?: boolean;
}) {
  const [values, setValues] = useState(start);
  const set = (next: Record<string, unknown>): void => {
    setValues(next);
    heard(next);
  };
  return (
    <SchemaForm
      fields={fields}
      values={values}
      set={set}
      choices={[
        [7, '7 Volume'],
        ['bend', 'Pitch bend'],
        ['program', 'Programs'],
      ]}
      inRecipe={inRecipe}
    />
  );
}

describe('the form that is made from a schema', () => {
  it('a number is typed as it comes, and brought into its range when the field is left', async () => {
    const heard = vi.fn();
    render(
      <Form
        fields={{
          add: { type: 'integer', title: 'Louder by', minimum: -20, maximum: 20, default: 0 },
        }}
        heard={heard}
      />,
    );
    const box = screen.getByRole<HTMLInputElement>('spinbutton', { name: 'Louder by' });
    expect(box.value).toBe('0');
    await userEvent.clear(box);
    await userEvent.type(box, '99');
    expect(heard).toHaveBeenLastCalledWith({ add: 99 });
    expect(await screen.findByText('20 at most.')).toBeTruthy();
    expect(box.getAttribute('aria-invalid')).toBe('true');
    await userEvent.tab();
    expect(heard).toHaveBeenLastCalledWith({ add: 20 });
    await waitFor(() => expect(screen.queryByText('20 at most.')).toBeNull());
    expect(box.getAttribute('aria-invalid')).toBe('false');
    const slider = screen.getByRole('slider', { name: 'Louder by, slider' });
    expect([slider.getAttribute('aria-valuemin'), slider.getAttribute('aria-valuemax')]).toEqual([
      '-20',
      '20',
    ]);
    slider.focus();
    await userEvent.keyboard('{ArrowLeft}');
    expect(heard).toHaveBeenLastCalledWith({ add: 19 });
  });

  it('a number that may be left out is left out where its field is empty, and has no slider', async () => {
    const heard = vi.fn();
    const optional: Field = {
      title: 'Channel',
      anyOf: [{ type: 'integer', minimum: 1, maximum: 16 }, { type: 'null' }],
      default: null,
    };
    render(<Form fields={{ channel: optional }} start={{ channel: 3 }} heard={heard} />);
    await userEvent.clear(screen.getByRole('spinbutton', { name: 'Channel' }));
    expect(heard).toHaveBeenLastCalledWith({ channel: null });
    expect(screen.queryByRole('slider')).toBeNull();
  });

  it('longer ranges have no slider; numbers of one row stand together and no other comes between', () => {
    const part = (title: string): Field => ({
      type: 'integer',
      title,
      minimum: 1,
      maximum: 1000,
      row: 'place',
    });
    render(
      <Form
        fields={{
          bar: part('Bar'),
          beat: part('Beat'),
          ms: { type: 'number', title: 'Milliseconds', minimum: 0, maximum: 1e6 },
        }}
        heard={() => undefined}
      />,
    );
    expect(screen.queryByRole('slider')).toBeNull();
    const rowOf = (name: string): Element | null =>
      screen.getByRole('spinbutton', { name }).closest('.flex-wrap');
    expect(rowOf('Bar')).toBe(rowOf('Beat'));
    expect(rowOf('Milliseconds')).toBeNull();
  });

  it('has a part for each kind of setting, with its default shown', async () => {
    const heard = vi.fn();
    const fields: Record<string, Field> = {
      chords: {
        type: 'boolean',
        title: 'Chords stay together',
        default: true,
        description: 'They move as one.',
      },
      unit: { type: 'string', title: 'Counted in', enum: ['ms', 'ticks'], default: 'ms' },
      lane: { title: 'Lane', offers: 'lane', default: 7 },
      kinds: {
        type: 'array',
        title: 'Kinds',
        items: { anyOf: [{ type: 'integer' }, { enum: ['bend'] }] },
        default: [],
      },
      name: { type: 'string', title: 'Name', maxLength: 5 },
    };
    render(<Form fields={fields} heard={heard} />);
    expect(
      screen.getByRole('checkbox', { name: /^Chords stay together/ }).getAttribute('aria-checked'),
    ).toBe('true');
    expect(screen.getByText('They move as one.')).toBeTruthy();
    expect(screen.getByRole('combobox', { name: 'Counted in' }).textContent).toContain('ms');
    // A lane is one of those that occur, or one of the usual; programs are none.
    const lane = screen.getByRole('combobox', { name: 'Lane' });
    expect(lane.textContent).toContain('7 Volume');
    lane.focus();
    await userEvent.keyboard('{ArrowDown}');
    expect(heard).toHaveBeenLastCalledWith({ lane: 'bend' });
    await userEvent.keyboard('{ArrowDown}');
    expect(heard).toHaveBeenLastCalledWith({ lane: 1 });
    await userEvent.keyboard('{ArrowUp}');
    await userEvent.click(screen.getByRole('button', { name: '7 Volume' }));
    expect(heard).toHaveBeenLastCalledWith({ lane: 'bend', kinds: [7] });
    expect(screen.queryByRole('button', { name: 'Programs' })).toBeNull();
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'abcdefg');
    expect(heard).toHaveBeenLastCalledWith({ lane: 'bend', kinds: [7], name: 'abcde' });
  });

  it('in a recipe asks what a blank is called, and for no tracks', async () => {
    const heard = vi.fn();
    render(
      <Form
        inRecipe
        fields={{
          source: { title: 'From', offers: 'source' },
          tracks: { title: 'Tracks', offers: 'source-tracks', default: 'all' },
        }}
        heard={heard}
      />,
    );
    await userEvent.type(screen.getByRole('textbox', { name: /^From/ }), 'x');
    expect(heard).toHaveBeenLastCalledWith({ source: { blank: 'x' } });
    expect(screen.queryByText('Tracks')).toBeNull();
  });
});

describe('places that are typed', () => {
  // 96 PPQ in 4/4: a beat is 96 ticks, a bar 384.
  const meters = meterMap([], { kind: 'ppq', ticksPerQuarter: 96 });

  it('go by a beat with the arrow keys, by a bar with Shift, and not before the beginning', async () => {
    const heard = vi.fn();
    function Place() {
      const [value, setValue] = useState('1.2.0');
      const set = (text: string): void => {
        setValue(text);
        heard(text);
      };
      return <PlaceField label="At" value={value} set={set} meters={meters} />;
    }
    render(<Place />);
    screen.getByRole('textbox', { name: 'At' }).focus();
    await userEvent.keyboard('{ArrowUp}{Shift>}{ArrowUp}{ArrowDown}{ArrowDown}{/Shift}{ArrowUp}');
    expect(heard.mock.calls.map(([text]) => text as string)).toEqual([
      '1.3.0',
      '2.3.0',
      '1.3.0',
      '1.1.0',
      '1.2.0',
    ]);
  });

  it('are understood as ticks, or said to be none', () => {
    expect([tickIn(meters, '2.1.0'), tickIn(meters, '1.5.0'), tickIn(meters, 'two')]).toEqual([
      384,
      undefined,
      undefined,
    ]);
    expect([nearestBar(meters, 191), nearestBar(meters, 192), nearestBar(meters, 193)]).toEqual([
      0, 0, 384,
    ]);
    expect(placeSchema(meters).parse('3.2.10')).toBe(874);
    expect(
      placeSchema(meters)
        .safeParse('')
        .error!.issues.map((i) => i.message),
    ).toEqual(['Nothing is no place of this song.']);
    expect(placeSchema(meters).safeParse('9').success).toBe(tickIn(meters, '9') !== undefined);
  });

  it('of what is wrong, the first in the order of the fields is said', () => {
    const errors = {
      end: { type: 'x', message: 'second' },
      place: { type: 'x', message: 'first' },
    };
    expect(firstError<{ place: string; end: string }>(errors, ['place', 'end'])).toBe('first');
    expect(firstError<{ place: string }>({ root: { message: 'whole' } as never }, ['place'])).toBe(
      'whole',
    );
    expect(firstError<{ place: string }>({}, ['place'])).toBeUndefined();
  });
});
