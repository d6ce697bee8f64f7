import { FORMAT_EXTENSIONS, layoutOfName, type LayoutRecord } from '@isola/core';

/** A file with its path in the folder that it was chosen or dropped with. */
export interface ChosenFile {
  readonly file: File;
  readonly path: string;
}

/** Whether a file is one of stitches, by its name: of an open format, or a machine's own that the shop has a layout of. */
export const isStitchFile = (name: string, layouts: readonly LayoutRecord[] = []): boolean =>
  FORMAT_EXTENSIONS.some((extension) => name.toLowerCase().endsWith(extension)) || layoutOfName(layouts, name) !== undefined;

/** Files that were chosen, with their folders where a folder was. */
export function chosenFiles(files: Iterable<File>): ChosenFile[] {
  return sorted([...files].map((file) => ({ file, path: file.webkitRelativePath || file.name })));
}

/** All files of what was dropped, those in folders too. It has to be called while the drop is handled: after that nothing can be read from it. */
export async function droppedFiles(items: Iterable<DataTransferItem>): Promise<ChosenFile[]> {
  const entries = [...items].map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() }));
  const found = await Promise.all(
    entries.map(({ entry, file }) => {
      if (entry !== null) return filesIn(entry, '');
      return Promise.resolve(file === null ? [] : [{ file, path: file.name }]);
    }),
  );
  return sorted(found.flat());
}

async function filesIn(entry: FileSystemEntry, folder: string): Promise<ChosenFile[]> {
  const path = folder === '' ? entry.name : `${folder}/${entry.name}`;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, path }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const inside: FileSystemEntry[] = [];
  // A folder is told in parts, until there is nothing more.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) break;
    inside.push(...part);
  }
  return (await Promise.all(inside.map((one) => filesIn(one, path)))).flat();
}

const sorted = (files: ChosenFile[]): ChosenFile[] => files.sort((a, b) => a.path.localeCompare(b.path));
