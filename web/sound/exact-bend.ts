import { GeneratorTypes, type BasicSoundBank } from 'spessasynth_core';

/**
 * Cents of the whole bend range at a sensitivity of 127 semitones, as SoundFont 2.04 (8.4.10) has it, and as the
 * synthesizer needs it: it takes 127 for 127/128.
 */
const asSpecified = 12_700;
const asCounted = 12_800;

/** Has pitch bend go exactly as far as its range says: the synthesizer would stay ten cents behind an octave. */
export function exactBend(bank: BasicSoundBank): BasicSoundBank {
  for (const modulator of bank.defaultModulators)
    if (
      modulator.destination === GeneratorTypes.fineTune &&
      modulator.transformAmount === asSpecified
    )
      modulator.transformAmount = asCounted;
  return bank;
}
