/**
 * Controller names of MIDI 1.0 (MIDI Association, table of control changes; from memory). Numbers without a
 * name are undefined there.
 */
const coarse: Readonly<Record<number, string>> = {
  0: 'Bank select', 1: 'Modulation', 2: 'Breath', 4: 'Foot', 5: 'Portamento time', 6: 'Data entry', 7: 'Volume', 8: 'Balance', 10: 'Pan', 11: 'Expression',
  12: 'Effect 1', 13: 'Effect 2', 16: 'General purpose 1', 17: 'General purpose 2', 18: 'General purpose 3', 19: 'General purpose 4',
};

const rest: Readonly<Record<number, string>> = {
  64: 'Damper', 65: 'Portamento', 66: 'Sostenuto', 67: 'Soft', 68: 'Legato', 69: 'Hold 2',
  70: 'Variation', 71: 'Resonance', 72: 'Release', 73: 'Attack', 74: 'Brightness', 75: 'Decay', 76: 'Vibrato rate', 77: 'Vibrato depth', 78: 'Vibrato delay',
  80: 'General purpose 5', 81: 'General purpose 6', 82: 'General purpose 7', 83: 'General purpose 8', 84: 'Portamento control', 88: 'High-resolution velocity',
  91: 'Reverb send', 92: 'Tremolo depth', 93: 'Chorus send', 94: 'Detune depth', 95: 'Phaser depth',
  96: 'Data increment', 97: 'Data decrement', 98: 'NRPN low', 99: 'NRPN high', 100: 'RPN low', 101: 'RPN high',
  120: 'All sound off', 121: 'Reset all controllers', 122: 'Local control', 123: 'All notes off', 124: 'Omni off', 125: 'Omni on', 126: 'Mono', 127: 'Poly',
};

/** Name of a controller 0–127. 7 → "Volume"; 39 → "Volume (fine)"; 3 → "Controller 3". */
export function controllerName(number: number): string {
  if (number < 32) return coarse[number] ?? `Controller ${number}`;
  if (number < 64) return coarse[number - 32] ? `${coarse[number - 32]} (fine)` : `Controller ${number}`;
  return rest[number] ?? `Controller ${number}`;
}
