import { describe, it } from 'vitest';
import { readDamaged, seeds, title } from '../support/damaged-files.ts';
import { scaleTimeout } from '../support/scale.ts';

describe('mutated files, with the other seeds', () => {
  it.each(seeds.slice(2))(title, readDamaged, scaleTimeout(900_000));
});
