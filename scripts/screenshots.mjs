// npm run screenshots: takes the pictures in docs/screenshots from the demo data, on a database of its own.
import { execFileSync, spawn } from 'node:child_process';
import path from 'node:path';
import { build, CHROMIUM, installBrowser, installPackages, ROOT, startDatabase } from './setUp.mjs';

process.env.DB_CLUSTER = 'postgres-test';
process.env.DB_PORT ??= '54429';
process.chdir(ROOT);
installPackages();
installBrowser();
await startDatabase('isola_pictures');
build();
const database = (...args) => execFileSync(process.execPath, ['scripts/db.mjs', ...args], { encoding: 'utf8' }).trim();
database('recreate', 'isola_pictures');
const PORT = 4398;
const url = `http://localhost:${PORT}`;
const environment = {
  ...process.env,
  DATABASE_URL: database('url', 'isola_pictures', 'server'),
  DATABASE_OWNER_URL: database('url', 'isola_pictures'),
  PORT: String(PORT),
  NODE_ENV: 'production',
};
async function serve(settings = {}) {
  const started = spawn(process.execPath, ['apps/server/dist/main.js'], {
    env: { ...environment, ...settings },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  process.on('exit', () => started.kill());
  await new Promise((resolve) => started.stdout.on('data', (data) => data.includes('Isola is at') && resolve()));
  return started;
}
let server = await serve();

const { chromium } = await import('@playwright/test');
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const jobs = await (await fetch(`${url}/api/jobs`)).json();
const at = (name, stage) => `${url}/jobs/${jobs.find((job) => job.name.includes(name)).id}/${stage}`;

let page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });

async function picture(name, address, ...acts) {
  if (address !== undefined) await page.goto(address);
  if (/\/jobs\//.test(page.url()))
    await page.locator('.shell[data-audited=true] :is(.cloth[data-painted=true], .release, .machine, .sew-outs)').first().waitFor();
  else if (name === 'jobs') await page.locator('figure[data-state=drawn]').nth(5).waitFor();
  await page.waitForTimeout(2500);
  for (const act of acts) {
    await act();
    await page.waitForTimeout(1200);
  }
  // What is pointed at there is what the picture shows.
  if (name !== 'history') await page.mouse.move(640, 4);
  await page.waitForTimeout(300);
  await page.screenshot({ path: path.join(ROOT, 'docs/screenshots', `${name}.png`) });
  console.log(name);
}
const press = (key) => () => page.keyboard.press(key);
const click = (text) => () => page.getByRole('button', { name: text }).first().click();

await picture('take-in', at('Heron', 'take-in'));
await picture('audit', at('Heron', 'audit'));
await picture('plan', at('Heron', 'audit'), press('r'), () => page.getByRole('region', { name: 'Plan of repair' }).waitFor());
await picture('compare', undefined, click(/^Accept \d steps as one/), () => page.getByRole('link', { name: 'Compare' }).click());
const line = (which) => page.locator('.history ol .line').nth(which);
await picture(
  'history',
  at('Heron', 'audit'),
  press('h'),
  () => line(-1).click(),
  click('Go here'),
  press('Escape'),
  () => page.locator('.finding', { hasText: 'not locked' }).getByRole('button').first().click(),
  press('t'),
  press('Enter'),
  press('h'),
  () => page.locator('.history li.branch .line').first().click(),
  () => page.locator('.history li.left .line').first().hover(),
  () => page.waitForTimeout(1500),
);
await picture('release', at('Kettle', 'release'));
await picture(
  'machine',
  at('pears', 'machine'),
  () => page.locator('.machine .cloth[data-painted=true]').waitFor(),
  click('× 60'),
  click('Start'),
  () => page.getByRole('alert').waitFor({ timeout: 60_000 }),
);
const first = () => page.getByRole('region', { name: 'Objects' }).locator('.row').first().click();
await picture('shapes', at('Kettle', 'rework'), first, click('shape'), click(/^Nodes$/), async () => {
  const node = await page.locator('.nodes .node').first().boundingBox();
  await page.mouse.move(node.x + node.width / 2, node.y + node.height / 2);
  await page.mouse.down();
  await page.mouse.move(node.x + 45, node.y - 40, { steps: 6 });
  await page.mouse.up();
});
await picture('order', at('Key fobs', 'rework'), press('o'), () =>
  page.getByRole('table', { name: 'Before and after' }).waitFor({ timeout: 60_000 }),
);
await picture(
  'layout',
  at('Heron', 'layout'),
  () => page.getByRole('combobox', { name: 'Hoop' }).click({ force: true }),
  () => page.getByRole('option', { name: /tubular 300/ }).click(),
  () => page.waitForTimeout(3000),
);
await picture('shop', `${url}/shop`, click('terry'));
await picture(
  'board',
  `${url}/board`,
  click('Propose a plan'),
  () => page.locator('.proposal').waitFor(),
  click('Take it up'),
  () => page.locator('.bar').first().click(),
);

/** A sample as somebody would have found it: more drawn in than expected, some minutes longer. */
async function sample(name, day, off, slower, note) {
  const { id } = jobs.find((job) => job.name.includes(name));
  await page.goto(at(name, 'sew-outs'));
  const places = page.locator('aside tbody tr');
  await places.first().waitFor();
  for (let k = 0; k < (await places.count()); k++) {
    const cells = await places.nth(k).locator('td').allTextContents();
    const expected = Number(cells[1]);
    await places
      .nth(k)
      .getByRole('spinbutton')
      .fill(Math.max(0, expected + (Number(cells[0]) < 1 ? off : -off) + (k % 3) * 0.05).toFixed(1));
  }
  await page.getByLabel('Sewn by').fill('Mara');
  await page.getByLabel('Sewn on').fill(day);
  const clock = page.getByLabel(/Minutes, without/);
  await clock.fill((Number(await clock.getAttribute('placeholder')) * slower).toFixed(1));
  await page.getByLabel(/What else was seen/).fill(note);
  await page.getByRole('button', { name: 'Record the sample' }).click();
  await page.getByRole('button', { name: 'Save the change' }).waitFor();
  return id;
}
const day = (back) => new Date(Date.now() - back * 86_400_000).toISOString().slice(0, 10);
await sample('Birch', day(6), 0.15, 1.12, 'two loops at the catkins');
await sample('Whisk', day(4), 0.05, 1.06, 'wheat shows cloth');
await sample('Kettle', day(3), 0.2, 1.1, '');
await sample('Heron', day(1), 0.25, 1.08, 'gap at the left reed');
await picture('sew-outs', at('Heron', 'sew-outs'), () => page.locator('aside table').waitFor());
await picture('logbook', `${url}/logbook`, () => page.locator('canvas').nth(1).waitFor());
await picture(
  'practice',
  `${url}/practice`,
  () => page.getByText('Whisk and wheat, apron').click(),
  click(/^Plant them/),
  () => page.locator('.practice').waitFor({ timeout: 90_000 }),
  () => page.locator('.cloth[data-painted=true]').waitFor(),
  () => page.locator('canvas.surface').click({ position: { x: 320, y: 480 } }),
);
await picture('jobs', `${url}/`);

// The shop's server, where people sign in: two of them are in one job.
server.kill();
await new Promise((resolve) => server.once('exit', resolve));
server = await serve({ ACCOUNTS: 'on' });
await picture('sign-in', `${url}/`, () => page.getByRole('heading', { name: 'Who is at the bench?' }).waitFor());
const PASSWORD = 'three blue herons';
const invited = /join#([\w-]+)/.exec(
  execFileSync(process.execPath, ['apps/server/dist/owner.js'], { encoding: 'utf8', env: environment }),
)[1];
async function comeIn(name, token) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce', baseURL: url });
  await context.request.post('/api/session/join', { data: { token, name, password: PASSWORD } });
  return context;
}
const mara = await comeIn('Mara', invited);
const invite = async (role) => (await (await mara.request.post('/api/people/invitations', { data: { role } })).json()).token;
const ivo = await comeIn('Ivo', await invite('digitizer'));
const ada = await comeIn('Ada', await invite('operator'));
page = await mara.newPage();
await picture('people', `${url}/people`, click('Make a link'));
const other = await ivo.newPage();
await other.goto(at('Kettle', 'rework'));
await (await ada.newPage()).goto(at('Kettle', 'release'));
await picture('together', at('Kettle', 'audit'), async () => {
  await other.goto(at('Kettle', 'audit'));
  await other.locator('.shell[data-audited=true]').waitFor();
  const finding = other.locator('.finding').nth(1);
  await finding.getByRole('button').first().click();
  await finding.getByRole('button', { name: 'Keep, because…' }).click();
  await other.getByLabel('Because…').fill('sewn so on the sample');
  await other.getByRole('button', { name: 'Keep it' }).click();
  await page.getByText('Ivo changed this job').waitFor();
});

await browser.close();
server.kill();
