import { afterEach, beforeEach, jest } from '@jest/globals';
import { type DeletedJob, type JobSummary, SAVED_HEADER, type Shop, TOTAL_HEADER } from '@isola/contract';
import {
  defaultTarget,
  FABRICS,
  GARMENTS,
  HOOPS,
  inspectProgram,
  LAYOUTS,
  MACHINES,
  ProgramBuilder,
  THREADS,
  USUAL_RULES,
} from '@isola/core';
import { enableAutoUnmount, flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import type { Component } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { ApiError } from '../../api/client.ts';

export const file = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0).stitch(0, 0).stitch(3, 0).stitch(6, 0).trim().end().build();
export const figures = inspectProgram(file, defaultTarget());
export const AT = '2026-11-23T08:00:00.000Z';

/** A shop as it begins. */
export const SHOP: Shop = {
  ...{ fabrics: FABRICS, garments: GARMENTS, hoops: HOOPS, machines: MACHINES, threads: THREADS, layouts: LAYOUTS, rules: USUAL_RULES },
};

/** A job as the list gives it. */
export function job(id: string, more: Partial<JobSummary> = {}): JobSummary {
  return {
    ...{ id, name: `Job ${id}`, customer: '', due: null, fileName: `${id}.csv`, fileKind: 'csv', warnings: [], target: defaultTarget() },
    ...{ before: figures, now: figures, findings: { stop: 0, fix: 0, note: 0 }, stage: 'taken-in', version: 0, detailsVersion: 2 },
    ...{ programHash: null, released: null, practice: null, createdAt: AT, updatedAt: AT },
    ...more,
  };
}

export type Handler = (method: string, path: string, body: unknown) => unknown;
/** What the server says, what it was asked, and where the page is. */
export const stage: {
  answers: Handler;
  deleted: readonly DeletedJob[];
  readonly asked: [method: string, path: string, body: unknown][];
  router: Router;
} = { answers: () => undefined, deleted: [], asked: [], router: undefined as never };

export async function show(screen: Component, props: Readonly<Record<string, unknown>> = {}): Promise<VueWrapper> {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', name: 'jobs', component: { render: () => null } },
      { path: '/shop', name: 'shop', component: { render: () => null } },
      { path: '/board', name: 'board', component: { render: () => null } },
      { path: '/people', name: 'people', component: { render: () => null } },
      { path: '/practice', name: 'practice', component: { render: () => null } },
      { path: '/logbook', name: 'logbook', component: { render: () => null } },
      { path: '/audits', name: 'audits', component: { render: () => null } },
      { path: '/audits/:id', name: 'folder-audit', component: { render: () => null } },
      ...['take-in', 'audit', 'rework', 'compare', 'machine', 'release', 'sew-outs'].map((name) => ({
        path: `/jobs/:id/${name}`,
        name,
        component: { render: () => null },
      })),
    ],
  });
  stage.router = router;
  await router.push('/jobs/one/audit');
  const global = { plugins: [createVuetify({ components }), router], stubs: { JobPicture: true } };
  const shown = mount(screen, { global, props, attachTo: document.body }) as VueWrapper;
  await flushPromises();
  return shown;
}

export const said = (of: { element: Node }): string => (of.element.textContent ?? '').replace(/\s+/g, ' ');
export const buttonIn = (of: ParentNode, text: RegExp): HTMLElement =>
  [...of.querySelectorAll<HTMLElement>('button, a')].find((b) => text.test(b.getAttribute('aria-label') ?? b.textContent ?? ''))!;
export async function click(of: VueWrapper | ParentNode, text: RegExp): Promise<void> {
  buttonIn('element' in of ? (of.element as ParentNode) : of, text).click();
  await flushPromises();
}

/** Before each test of a file that calls this: fresh stores, an empty page, and a server that answers from {@link stage}. */
export function setTheStage(): void {
  enableAutoUnmount(afterEach);
  beforeEach(resetStage);
}

/** What a list of jobs is told with. */
function totalsOf(jobs: readonly JobSummary[]): [string, string][] {
  const saved = jobs.reduce((sum, { before, now, target }) => sum + (before.run.seconds - now.run.seconds) * target.quantity, 0);
  return [
    [TOTAL_HEADER, String(jobs.length)],
    [SAVED_HEADER, String(saved)],
  ];
}

function resetStage(): void {
  stage.deleted = [];
  setActivePinia(createPinia());
  document.body.innerHTML = '';
  stage.asked.length = 0;
  globalThis.fetch = jest.fn((at: string, init: { method?: string; body?: unknown } = {}) => {
    const method = init.method ?? 'GET';
    const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : init.body;
    const whole = at.replace('/api', '');
    stage.asked.push([method, whole, body]);
    // Which jobs are looked for the server knows; what it has is told.
    const path = whole.startsWith('/jobs?') ? '/jobs' : whole;
    let status = 200;
    let content: unknown;
    try {
      content = path === '/jobs/deleted' ? stage.deleted : stage.answers(method, path, body);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      status = error.status;
      content = { type: 'about:blank', title: error.title, detail: error.message, status };
    }
    const type = status === 200 ? 'application/json' : 'application/problem+json';
    const headers = new Map([
      ['Content-Type', type],
      ...(path === '/jobs' && Array.isArray(content) ? totalsOf(content as JobSummary[]) : []),
    ]);
    const answer = { ok: status === 200, status: content === undefined ? 204 : status, headers };
    return Promise.resolve({ ...answer, json: () => Promise.resolve(content) });
  }) as unknown as typeof fetch;
}
