import { z } from 'zod';
import { FORMATS } from '../formats.ts';
import { checkLayout } from './checkLayout.ts';
import { MachineLayout } from './machineLayout.ts';
import { SIMULATED_LAYOUT } from './simulatedLayout.ts';

const OWN = new Set([...FORMATS.flatMap(({ extensions }) => extensions.map((extension) => extension.slice(1))), 'json', 'pdf', 'png']);

/** A layout as the shop keeps it: files whose names end with a dot and `extension` are read by it. Called as its layout is. */
export const LayoutRecord = z
  .object({
    id: z.string().min(1).max(100),
    name: z.string().trim().min(1).max(80),
    extension: z
      .string()
      .regex(/^[a-z0-9]{1,8}$/, 'one to eight small letters or digits, without the dot')
      .refine((extension) => !OWN.has(extension), 'this ending is that of an open format: choose the one of your machine’s files'),
    layout: MachineLayout,
  })
  .superRefine(({ name, layout }, context) => {
    if (layout.name !== name) context.addIssue({ code: 'custom', path: ['name'], message: `the layout calls itself ${layout.name}` });
    for (const { at, message } of checkLayout(layout)) context.addIssue({ code: 'custom', path: ['layout', ...at.split('.')], message });
  });
export type LayoutRecord = z.infer<typeof LayoutRecord>;

/** What a shop starts with: the layout of the simulated machine. */
export const LAYOUTS: readonly LayoutRecord[] = [
  { id: 'simulated', name: SIMULATED_LAYOUT.name, extension: 'isla', layout: SIMULATED_LAYOUT },
];

/** The layout by which a file is read, by how its name ends; none where no layout has that ending. */
export function layoutOfName(layouts: readonly LayoutRecord[], fileName: string): LayoutRecord | undefined {
  const name = fileName.toLowerCase();
  return layouts.find(({ extension }) => name.endsWith(`.${extension}`));
}
