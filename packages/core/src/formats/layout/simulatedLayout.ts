import type { MachineLayout } from './machineLayout.ts';

/** The layout of the simulated machine, invented for it: six bytes a record, absolute places in steps of 0.02 mm. A code that nobody knows stops it. */
export const SIMULATED_LAYOUT: MachineLayout = {
  name: 'simulated machine',
  mmPerCount: 0.02,
  yUp: true,
  header: {
    length: 256,
    fill: 0,
    fields: [
      { at: 0, text: 'ISLA1' },
      { at: 8, as: 'u32le', of: 'stitches' },
      { at: 12, as: 'u32le', of: 'records' },
      { at: 16, as: 'u16le', of: 'colors' },
      { at: 18, as: 'i16le', of: 'minX' },
      { at: 20, as: 'i16le', of: 'maxX' },
      { at: 22, as: 'i16le', of: 'minY' },
      { at: 24, as: 'i16le', of: 'maxY' },
      { at: 32, of: 'name', length: 32 },
    ],
    colors: { at: 64, entry: 'rgb', max: 64 },
  },
  record: {
    length: 6,
    x: { at: 0, as: 'i16le', relative: false },
    y: { at: 2, as: 'i16le', relative: false },
    commands: [
      { command: 'stitch', byte: 4, mask: 255, value: 0x53 },
      { command: 'jump', byte: 4, mask: 255, value: 0x4a },
      { command: 'trim', byte: 4, mask: 255, value: 0x54 },
      { command: 'color', byte: 4, mask: 255, value: 0x43 },
      { command: 'end', byte: 4, mask: 255, value: 0x45 },
      { command: 'stop', byte: 4, mask: 0, value: 0 },
    ],
  },
  longest: 12.7,
  longMove: 'jump',
  end: 'command',
};
