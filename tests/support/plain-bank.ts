import {
  BasicInstrument,
  BasicPreset,
  BasicSoundBank,
  EmptySample,
  Generator,
  GeneratorTypes,
} from 'spessasynth_core';

/**
 * A bank of one preset on program 1, which all others fall back on: a sine that is 440 Hz at key 69 by its
 * making, 100 samples at 44,000 a second.
 */
export function plainFile(): ArrayBuffer {
  const bank = new BasicSoundBank();
  const sample = new EmptySample();
  sample.name = 'Sine';
  sample.originalKey = 69;
  sample.loopEnd = 1000;
  sample.setAudioData(
    Float32Array.from({ length: 1000 }, (_, n) => Math.sin((2 * Math.PI * n) / 100) / 2),
    44_000,
  );
  bank.addSamples(sample);
  const instrument = new BasicInstrument();
  instrument.name = 'Sine';
  instrument.globalZone.addGenerators(new Generator(GeneratorTypes.sampleModes, 1));
  instrument.createZone(sample);
  bank.addInstruments(instrument);
  const preset = new BasicPreset(bank);
  preset.name = 'Sine';
  preset.createZone(instrument);
  bank.addPresets(preset);
  bank.soundBankInfo.name = 'Plain';
  bank.flush();
  return bank.writeSF2();
}
