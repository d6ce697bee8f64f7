import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { AuditDetail, AuditFileRow, AuditSummary } from '@isola/contract';
import { defaultTarget, FABRICS, type FileAudit, GARMENTS, HOOPS, LAYOUTS, MACHINES, THREADS, USUAL_RULES } from '@isola/core';
import { flushPromises } from '@vue/test-utils';
import { ApiError } from '../../api/client.ts';
import { useAudits } from '../../stores/audits.ts';
import { useNotices } from '../../stores/notices.ts';
import { AT, buttonIn, click, job, said, setTheStage, show, stage } from '../testing/onScreens.ts';
import { chosenFiles, droppedFiles, isStitchFile } from './filesOf.ts';

setTheStage();

/** What the server says by itself while an audit goes on. */
class Events extends EventTarget {
  static readonly CLOSED = 2;
  static last: Events | undefined;
  readyState = 1;
  readonly address: string;
  constructor(address: string) {
    super();
    this.address = address;
    Events.last = this;
  }
  close(): void {
    this.readyState = Events.CLOSED;
  }
  say(summary: AuditSummary): void {
    this.dispatchEvent(new MessageEvent('audit', { data: JSON.stringify(summary) }));
  }
}
const real = globalThis.EventSource;
beforeEach(() => {
  globalThis.EventSource = Events as unknown as typeof EventSource;
});
afterEach(() => {
  globalThis.EventSource = real;
});

const judged = (saves: number, stop = 0): FileAudit => ({
  ...{ warnings: [], saves, counts: { stop, fix: 1, note: 0 } },
  figures: { stitches: 8444, trims: 26, colorChanges: 4, width: 90, height: 80, seconds: 860 },
  findings: [{ rule: 'needless-trim', severity: 'fix', message: '12 trims that need not be', places: 12 }],
  verdict: { choice: 'repair', repairMinutes: 3, anewMinutes: 90, reasons: ['5 are mended here'] },
});
const row = (seq: number, state: AuditFileRow['state'], audit: FileAudit | null, problem: string | null = null): AuditFileRow => {
  return { seq, name: `spring/${seq}.csv`, state, audit, problem };
};
function auditOf(files: readonly AuditFileRow[], isCancelled = false): AuditDetail {
  const count = (state: AuditFileRow['state']): number => files.filter((file) => file.state === state).length;
  const counts = { waiting: count('waiting'), done: count('done'), failed: count('failed'), cancelled: count('cancelled') };
  return { ...{ id: 'spring', name: 'Spring order', target: defaultTarget(), isCancelled, createdAt: AT }, counts, files };
}
const shop = {
  fabrics: FABRICS,
  garments: GARMENTS,
  hoops: HOOPS,
  machines: MACHINES,
  threads: THREADS,
  layouts: LAYOUTS,
  rules: USUAL_RULES,
};
const settle = async (): Promise<void> => {
  for (let k = 0; k < 12; k++) await flushPromises();
};

describe('many files', () => {
  test('are chosen with their folders, begun for a cloth, and sent one by one; one that does not arrive is said', async () => {
    const sent: string[] = [];
    stage.answers = (method, path, body) => {
      if (path === '/shop') return shop;
      if (path === '/audits')
        return method === 'POST'
          ? { ...auditOf([]), ...(body as object) }
          : [auditOf([row(1, 'done', judged(30)), row(2, 'failed', null, 'torn')])];
      if (method === 'PUT') {
        sent.push(`${path} ${(body as FormData).get('path') as string}`);
        if (path.endsWith('/2')) throw new ApiError(422, 'This does not fit', 'It is too strange.');
        return undefined;
      }
      return undefined;
    };
    const { default: AuditsScreen } = await import('./AuditsScreen.vue');
    const screen = await show(AuditsScreen);
    expect(said(screen)).toContain('2 files, 1 could not be judged');
    const files = ['spring/b.csv', 'spring/notes.txt', 'spring/a.svg'].map((path) =>
      Object.defineProperty(new File(['x'], path.split('/')[1]!), 'webkitRelativePath', { value: path }),
    );
    const input = screen.find<HTMLInputElement>('input[webkitdirectory]');
    Object.defineProperty(input.element, 'files', { value: files, configurable: true });
    await input.trigger('change');
    expect(said(screen)).toContain('2 files, 1 others left out');
    await click(screen, /^Audit 2 files/);
    const begun = stage.asked.find(([method, path]) => method === 'POST' && path === '/audits')![2] as {
      name: string;
      target: { fabric: { id: string }; garment: null; hoop: { id: string } };
    };
    expect([begun.name, begun.target.fabric.id, begun.target.garment, begun.target.hoop.id]).toEqual([
      'spring',
      'pique-polo',
      null,
      'jacket-back',
    ]);
    await settle();
    expect(sent.sort()).toEqual(['/audits/spring/files/1 spring/a.svg', '/audits/spring/files/2 spring/b.csv']);
    expect(useAudits().sending).toEqual({ auditId: 'spring', sent: 2, of: 2, lost: [{ path: 'spring/b.csv', why: 'It is too strange.' }] });
    expect(stage.router.currentRoute.value.fullPath).toBe('/audits/spring');
  });

  test('stand in one table as they are judged, what saves most first; the rest is cancelled; a file becomes a job', async () => {
    let files = [
      row(1, 'done', judged(20)),
      row(2, 'waiting', null),
      row(3, 'waiting', null),
      row(4, 'failed', null, 'Line 1: no stitch.'),
    ];
    stage.answers = (method, path) => {
      if (path === '/audits/spring')
        return auditOf(
          files,
          files.some(({ state }) => state === 'cancelled'),
        );
      if (path.endsWith('/cancel')) files = files.map((file) => (file.state === 'waiting' ? row(file.seq, 'cancelled', null) : file));
      if (path.endsWith('/job')) return job('made');
      return method === 'POST' ? auditOf(files) : undefined;
    };
    const { default: FolderAuditScreen } = await import('./FolderAuditScreen.vue');
    const screen = await show(FolderAuditScreen, { id: 'spring' });
    await settle();
    const names = (): string[] => screen.findAll('tbody th').map((th) => th.text());
    expect(said(screen.find('[role=status]'))).toContain('2 of 4 judged, 1 could not be.');
    expect(names()).toEqual(['spring/1.csv', 'spring/4.csv']);
    expect(said(screen)).toContain('Line 1: no stitch.');
    files = files.map((file) => (file.seq === 2 ? row(2, 'done', judged(240, 1)) : file));
    Events.last!.say(auditOf(files));
    expect(Events.last!.address).toBe('/api/audits/spring/events');
    await flushPromises();
    expect(said(screen.find('[role=status]'))).toContain('3 of 4 judged');
    await click(screen, /Cancel the rest/);
    await settle();
    expect(names()).toEqual(['spring/2.csv', 'spring/1.csv', 'spring/4.csv']);
    expect(said(screen.findAll('tbody tr')[0]!)).toMatch(
      /4\.0\s?14\.3\s?8\s?444\s?26\s?1\s?1\s?–\s?12 trims that need not be\s?repair, 3 min/,
    );
    expect(said(screen.find('[role=status]'))).toContain('the rest cancelled');
    expect(buttonIn(screen.element as ParentNode, /Cancel the rest/)).toBeUndefined();
    await click(screen, /^Take in spring\/2\.csv/);
    expect(stage.asked.at(-1)!.slice(0, 2)).toEqual(['POST', '/audits/spring/files/2/job']);
    await settle();
    expect(stage.router.currentRoute.value.fullPath).toBe('/jobs/made/audit');
  });

  test('of an audit that is gone are not waited for: that is said, with another try', async () => {
    stage.answers = () => {
      throw new ApiError(404, 'Not found', 'There is no such audit; it may have been deleted.');
    };
    const { default: FolderAuditScreen } = await import('./FolderAuditScreen.vue');
    const screen = await show(FolderAuditScreen, { id: 'gone' });
    await settle();
    expect(said(screen.find('[role=alert]'))).toContain('it may have been deleted');
    await click(screen, /Try again/);
    expect(stage.asked).toHaveLength(2);
    expect(useNotices().notice).toBeUndefined();
  });

  test('are found in folders of any depth, however many parts a folder is told in', async () => {
    const fileEntry = (name: string): unknown => ({
      isFile: true,
      name,
      file: (take: (file: File) => void) => take(new File(['x'], name)),
    });
    const folder = (name: string, ...parts: unknown[][]): unknown => ({
      isFile: false,
      name,
      createReader: () => {
        const left = [...parts, []];
        return { readEntries: (take: (entries: unknown[]) => void) => take(left.shift()!) };
      },
    });
    const inside = folder('spring', [fileEntry('b.csv')], [folder('caps', [fileEntry('a.csv')])]);
    const items = [
      { webkitGetAsEntry: () => inside, getAsFile: () => null },
      { webkitGetAsEntry: () => null, getAsFile: () => new File(['x'], 'alone.svg') },
    ] as unknown as DataTransferItem[];
    expect((await droppedFiles(items)).map(({ path }) => path)).toEqual(['alone.svg', 'spring/b.csv', 'spring/caps/a.csv']);
    expect(chosenFiles([new File(['x'], 'z.csv')]).map(({ path }) => path)).toEqual(['z.csv']);
    expect(['A.CSV', 'b.svg', 'c.txt', 'csv'].map((name) => isStitchFile(name))).toEqual([true, true, false, false]);
    expect(['A.ISLA', 'isla', 'b.islay'].map((name) => isStitchFile(name, LAYOUTS))).toEqual([true, false, false]);
  });
});
