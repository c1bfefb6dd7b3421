/** A field of an operation's settings, as its JSON Schema describes it. */
export interface Field {
  readonly type?: string;
  readonly title?: string;
  readonly description?: string;
  readonly unit?: string;
  readonly default?: unknown;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly maxLength?: number;
  readonly enum?: readonly string[];
  readonly items?: Field;
  /** Fields of its own. */
  readonly properties?: Readonly<Record<string, Field>>;
  readonly anyOf?: readonly Field[];
  /**
   * Numbers that belong together, as bar and beat do, stand in one row: those that follow each other and
   * name the same.
   */
  readonly row?: string;
  /** What may be chosen: the lanes that occur, one of them, or what is outside the song. */
  readonly offers?:
    | 'lanes'
    | 'lane'
    | 'source'
    | 'source-tracks'
    | 'landing-place'
    | 'onto'
    | 'track'
    | 'program'
    | 'definition'
    | 'players'
    | 'lines'
    | 'points';
  /** A number that is a key is shown with its name. */
  readonly shows?: 'key';
}

/** What may be chosen from, with names. */
export type Choices = readonly (readonly [number | string, string])[];

export interface FieldProps {
  readonly field: Field;
  readonly value: unknown;
  readonly set: (value: unknown) => void;
  readonly choices: Choices;
  /** The other settings. */
  readonly beside?: Readonly<Record<string, unknown>>;
  /** The settings are a recipe's: what comes from outside is asked for when it is run. */
  readonly inRecipe?: boolean;
  /** What is wrong with what it holds. */
  readonly wrong?: string | undefined;
}

/** How a field to type in looks. */
export const input = 'rounded border border-line bg-paper px-1.5 py-0.5';
