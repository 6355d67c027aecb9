import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { createConnection, createServer, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, test, worldForTest } from './support/test.ts';
import { encodeFrame } from '../src/sim/frame.ts';
import { newGame } from '../src/sim/game.ts';
import { SerialLine } from '../src/sim/serial-line.ts';
import { freePort } from './support/ports.ts';
import { button, lastAction } from './support/page.ts';

const world = worldForTest();

const goal = (side: 'home' | 'away') => ({ kind: 'goal', side }) as const;

async function connect(page: Page, name: string, port: number): Promise<void> {
  await page.goto(`${world.url}/sources`);
  await button(page, 'Add a source').click();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Port').fill(String(port));
  await button(page, 'Connect').click();
  await expect(page.getByRole('status', { name: 'State' })).toContainText('live');
  // Nothing is kept by looking.
  await expect(page.locator('[data-source]').getByText(name)).toHaveCount(0);
}

test('an unknown controller is connected by listening, stands by, takes over when the first dies, and gives back', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await connect(page, 'Arena console', world.simPort + 3);
  await expect(page.getByText('Bytes come in.')).toBeVisible();
  for (let i = 0; i < 4; i++) await world.score({ kind: 'shot-clock', ms: 20_000 - i * 1000 });
  // Nobody asks: a check that holds proves the frame.
  await expect(page.getByRole('status', { name: 'Frame found' })).toContainText('frames of 28 bytes');
  await expect(page.getByRole('status', { name: 'Frame found' })).toContainText(
    'exclusive or that holds for all',
  );
  await page.getByRole('listbox').focus();
  await page.keyboard.press('l');
  await expect(page.getByText('Leave the controller alone')).toBeVisible();
  await expect(page.getByText('Now press one button')).toBeVisible();
  await world.score(goal('home'));
  await page.getByRole('button', { name: 'byte 8: “0” → “1”' }).click();
  // One click makes the reading; what it is called is typed over.
  await expect(page.locator('[data-reading="bytes 6–8"]')).toContainText('1');
  await expect(page.getByRole('form', { name: 'Reading bytes 6–8' })).toContainText('→ 1');
  await expect(page.getByRole('button', { name: 'Byte 5 too?' })).toBeVisible();
  await page.keyboard.type('home score');
  await page.keyboard.press('Enter');
  const row = page.locator('[data-reading="home score"]');
  await expect(row).toContainText('6–8');
  await button(page, 'Home score?').click();
  // The controller feeds this field already: the new source stands by behind it.
  await expect(row.getByLabel('Priority of home score')).toHaveValue('2');
  await expect(row.getByLabel('Priority of home score')).toHaveAccessibleDescription('beside Controller, 1');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Arena console');
  await world.score(goal('home'));
  await expect(air.locator('[data-layer="home score"]')).toHaveText('2');
  expect(await world.field('home.score')).toMatchObject({ value: 2, origin: 'controller' });

  // The controller dies and comes back: the other takes over at once, and gives back while play is stopped.
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  await expect.poll(async () => (await world.field('home.score')).origin).toBe('arena-console');
  await world.score(goal('home'));
  await expect(air.locator('[data-layer="home score"]')).toHaveText('3');
  expect(await world.field('home.score')).toMatchObject({ value: 3, quality: 'ok' });
  await world.command({ kind: 'fault', fault: 'freeze', on: false });
  await expect
    .poll(async () => (await world.field('home.score')).origin, { timeout: 60_000 })
    .toBe('controller');

  // By hand, it waits until it is told.
  await page.locator('[data-source="controller"]').click();
  await page.getByLabel('Returns control').selectOption('by hand');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Controller');
  await expect.poll(async () => (await world.field('home.score')).origin).toBe('controller');
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  await expect.poll(async () => (await world.field('home.score')).origin).toBe('arena-console');
  await world.command({ kind: 'fault', fault: 'freeze', on: false });
  await expect(page.getByRole('group', { name: 'Return control' })).toContainText(
    'Controller is back: Home score 3, here 3',
  );
  await page.waitForTimeout(4000);
  expect((await world.field('home.score')).origin).toBe('arena-console');
  await page.getByRole('button', { name: /^Return control/ }).click();
  await expect.poll(async () => (await world.field('home.score')).origin).toBe('controller');

  // What is not saved waits while another source is switched off.
  await page.locator('[data-source="arena-console"]').click();
  await page.getByLabel('Name').first().fill('Arena console, far side');
  await page.locator('[data-source="controller"]').click();
  await page.getByText('in use').click();
  await expect(page.getByRole('switch', { name: 'in use' })).not.toBeChecked();
  await button(page, 'Save').click();
  await expect(page.locator('[data-source="controller"]')).toContainText('off');
  await page.locator('[data-source="arena-console"]').click();
  await expect(page.getByLabel('Name').first()).toHaveValue('Arena console, far side');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Arena console, far side');
  expect(await world.field('home.score')).toMatchObject({ value: 3, origin: 'arena-console' });

  await world.killEngine();
  await world.startEngine();
  await expect.poll(async () => (await world.field('home.score')).quality).toBe('ok');
  await world.score(goal('home'));
  await expect(air.locator('[data-layer="home score"]')).toHaveText('4');
});

test('bytes are selected by hand; a wrong line says what is wrong; undo, delete and import bring back what was', async ({
  page,
}) => {
  await page.goto(`${world.url}/sources`);
  // By keys alone: along, wider, and on to the name.
  await page.getByRole('listbox').focus();
  for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowRight', 'Shift+ArrowRight'])
    await page.keyboard.press(key);
  await expect(page.getByRole('form', { name: 'New reading' }).getByLabel('Bytes')).toHaveValue('2–4');
  await page.keyboard.press('Enter');
  await page.keyboard.type('typed');
  await expect(page.getByRole('form', { name: 'New reading' }).getByLabel('Name')).toHaveValue('typed');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('form', { name: 'New reading' })).toHaveCount(0);
  await page.locator('[data-byte="1"]').hover();
  await page.mouse.down();
  await page.locator('[data-byte="2"]').hover();
  await page.mouse.up();
  const form = page.getByRole('form', { name: 'New reading' });
  await expect(form.getByLabel('Bytes')).toHaveValue('1–2');
  await expect(form).toContainText('“LX”');
  await expect(form).toContainText('→ LX');
  await form.getByLabel('Name').fill('period');
  await expect(form.getByRole('button', { name: 'Add reading' })).toBeDisabled();
  await form.getByLabel('Name').fill('maker');
  await form.getByRole('button', { name: 'Add reading' }).click();
  const maker = page.locator('[data-reading="maker"]');
  await expect(maker).toContainText('LX');
  // A reading is changed where it stands: its bytes by dragging anew, its kind in the form.
  await maker.getByRole('button', { name: 'text' }).click();
  const changed = page.getByRole('form', { name: 'Reading maker' });
  await page.locator('[data-byte="2"]').click();
  await expect(changed.getByLabel('Bytes')).toHaveValue('2');
  await expect(changed).toContainText('“X”');
  await changed.getByLabel('Kind').selectOption('one bit');
  await changed.getByLabel('Bit', { exact: true }).selectOption('3');
  await expect(changed).toContainText('→ yes');
  await changed.getByRole('button', { name: 'Change reading' }).click();
  await expect(maker).toContainText('2bit 3yes');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Controller');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.locator('[data-reading="maker"]')).toHaveCount(0);

  await page.getByLabel('Port').fill('99999');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toContainText('source.transport.port');
  await button(page, 'Discard changes').click();
  await expect(page.getByLabel('Port')).toHaveValue(String(world.simPort));

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export' }).click(),
  ]);
  const exported = readFileSync(await download.path());
  await button(page, 'Delete…').click();
  await expect(page.getByText(/It feeds \d+ fields/)).toBeVisible();
  await button(page, 'Delete').click();
  await expect(page.locator('[data-source="controller"]')).toHaveCount(0);
  expect(await world.field('home.score')).toMatchObject({ quality: 'lost' });
  const bring = (name: string, buffer: Buffer) =>
    page.locator('input[type=file]').setInputFiles({ name, mimeType: 'application/json', buffer });
  await bring('odd.json', Buffer.from('{"schema":1}'));
  await expect(lastAction(page)).toContainText('odd.json is not a source: source.document');
  await bring('torn.json', Buffer.from('{"sche'));
  await expect(lastAction(page)).toHaveText('torn.json is not JSON.');
  await bring('controller.json', exported);
  await expect(page.locator('[data-source="controller"]')).toContainText('live');
  await world.score(goal('away'));
  await expect
    .poll(() => world.field('away.score'))
    .toMatchObject({ value: 1, quality: 'ok', origin: 'controller' });
});

test('a serial port and a device that calls are connected through the screens, by a ready map', async ({
  page,
}) => {
  const frame = () => encodeFrame({ ...newGame(), home: { ...newGame().home, score: 7 } });
  const folder = mkdtempSync(join(tmpdir(), 'foothill-serial-'));
  const [ours, theirs] = [join(folder, 'ours'), join(folder, 'theirs')];
  const socat = spawn('socat', [`pty,raw,echo=0,link=${ours}`, `pty,raw,echo=0,link=${theirs}`]);
  await expect.poll(() => existsSync(ours) && existsSync(theirs)).toBe(true);
  const device = new SerialLine(theirs);
  const port = await freePort();
  let caller: Socket | null = null;
  let done = false;
  const speaking = setInterval(() => {
    device.send(frame());
    if (caller?.writable) caller.write(frame());
  }, 100);
  const add = async (name: string, kind: string, fill: () => Promise<void>) => {
    await page.goto(`${world.url}/sources`);
    await button(page, 'Add a source').click();
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Reached by').selectOption(kind);
    await fill();
    await button(page, 'Connect').click();
  };
  const readyMap = async () => {
    const maps = page.getByLabel('Use a ready map');
    const lacrosse = await maps
      .getByRole('option', { name: /lacrosse/i })
      .first()
      .textContent();
    await maps.selectOption(lacrosse!);
    await expect(page.locator('[data-reading="home score"]')).toContainText('7');
    await button(page, 'Save').click();
  };
  try {
    await add('By serial', 'Serial', async () => {
      await page.getByLabel('Port', { exact: true }).fill(ours);
      await page.getByLabel('Speed').fill('9600');
    });
    await readyMap();
    await add('It calls', 'TCP, it calls', async () => {
      await page.getByLabel('Port', { exact: true }).fill(String(port));
    });
    await expect(page.getByRole('status', { name: 'State' })).not.toContainText('live');
    // As devices do, it calls again when the line is opened anew with its map.
    const call = () => {
      if (done) return;
      caller = createConnection(port, '127.0.0.1').on('error', () => {});
      caller.on('close', () => setTimeout(call, 200));
    };
    call();
    await readyMap();
    await expect(page.getByRole('status', { name: 'State' })).toContainText(/[1-9]\d* good/);
  } finally {
    done = true;
    clearInterval(speaking);
    (caller as Socket | null)?.destroy();
    device.close();
    socat.kill();
  }
});

test('the shot clock’s own device is heard over UDP, cut by its lines, and its clock runs', async ({
  page,
}) => {
  await page.goto(`${world.url}/sources`);
  await page.getByLabel('Field fed by shot clock').selectOption('');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Controller');
  await button(page, 'Add a source').click();
  await page.getByLabel('Name').fill('Shot clock device');
  await page.getByLabel('Reached by').selectOption('UDP');
  await page.getByLabel('Port').fill(String(world.simPort + 2));
  await button(page, 'Connect').click();
  await expect(page.getByRole('status', { name: 'State' })).toContainText('live');
  await world.score({ kind: 'start' });
  // Its lines have no check: how they may be cut is offered, with how it was told, and taken by whoever looks.
  const guess = page.getByRole('list', { name: 'Frames it may have' }).getByRole('listitem').first();
  await expect(async () => {
    await button(page, 'Find the frame').click();
    await expect(guess).toContainText('lines of text that end with 0d 0a', { timeout: 500 });
  }).toPass();
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await guess.getByRole('button', { name: 'Use this' }).click();
  const select = async (from: number, to: number) => {
    await page.locator(`[data-byte="${from}"]`).hover();
    await page.mouse.down();
    await page.locator(`[data-byte="${to}"]`).hover();
    await page.mouse.up();
  };
  const form = page.getByRole('form', { name: 'New reading' });
  await select(2, 3);
  // Two digits are a number until the name says that they are a clock.
  await expect(form.getByLabel('Kind')).toHaveValue('integer');
  await form.getByLabel('Name').fill('shot clock');
  await expect(form.getByLabel('Kind')).toHaveValue('clock');
  await form.getByLabel('Name').press('Enter');
  await select(4, 4);
  await form.getByLabel('Name').fill('running');
  await expect(form.getByLabel('Kind')).toHaveValue('flag');
  await expect(form.getByLabel('Yes is')).toHaveValue('R');
  await form.getByLabel('Name').press('Enter');
  await button(page, 'Shot clock?').click();
  // What says that it runs is found by its name.
  await expect(page.getByLabel('Running flag of shot clock')).toHaveValue('running');
  await button(page, 'Save').click();
  await expect
    .poll(() => world.field('clock.shot'))
    .toMatchObject({ origin: 'shot-clock-device', running: true, quality: 'ok' });
});

test('a device of named fields, each message with one item, is labelled before anything is saved, and its silence is its own', async ({
  page,
}) => {
  const said = { T: 'CLK=12:34.5', H: 'PTS=7', A: 'PTS=9' };
  let home = 7;
  const calls = new Set<Socket>();
  const device = createServer((socket) => {
    calls.add(socket.on('error', () => {}));
    socket.on('close', () => calls.delete(socket));
    for (const [what, item] of Object.entries(said)) socket.write(`${what};${item}\r\n`);
  });
  const say = (line: string) => calls.forEach((socket) => socket.write(`${line}\r\n`));
  await new Promise<void>((done) => device.listen(0, '127.0.0.1', done));
  const { port } = device.address() as { port: number };
  try {
    await connect(page, 'Named fields', port);
    for (let i = 0; i < 6; i++) say(`T;CLK=12:3${i}.5`);
    await expect(page.locator('code').first()).toContainText('12:35.5');
    await button(page, 'Find the frame').click();
    await page.getByRole('button', { name: 'Use this' }).first().click();
    await expect(page.getByLabel('Fields between')).toHaveValue('3b');
    await expect(page.getByLabel('Names')).toHaveValue('3d');
    const bytes = page.getByRole('listbox', { name: 'Fields of the frame' });
    const form = page.getByRole('form', { name: 'New reading' });
    await bytes.locator('[data-byte="0"]').click();
    await form.getByRole('button', { name: 'It tells messages apart' }).click();
    const messages = page.getByRole('group', { name: 'Messages' });
    await expect(messages).toContainText('told apart by field 1');
    const label = async (address: string, name: string) => {
      await messages.getByRole('button', { name: address, exact: true }).click();
      await bytes.locator('[data-byte="6"]').click();
      await form.getByLabel('Name').fill(name);
      await form.getByLabel('Name').press('Enter');
      await expect(page.locator(`[data-reading="${name}"]`)).toContainText(`${address}: field`);
    };
    await label('T', 'game clock');
    await label('A', 'away score');
    // What a button changes in the messages of one address lights up there.
    await page.getByRole('button', { name: /^Listen for a button/ }).click();
    await expect(page.getByText('Leave the controller alone')).toBeVisible();
    say(`H;PTS=${home}`);
    await expect(async () => {
      say('A;PTS=9');
      await expect(page.getByText('Now press one button')).toBeVisible({ timeout: 400 });
    }).toPass();
    say(`H;PTS=${++home}`);
    await page.getByRole('button', { name: 'H: field PTS: “7” → “8”' }).click();
    await page.keyboard.type('home score');
    await page.keyboard.press('Enter');
    await button(page, 'Home score?').click();
    await page.getByLabel('Silence is judged').selectOption('none');
    await button(page, 'Save').click();
    await expect(lastAction(page)).toHaveText('Saved the source Named fields');
    await expect(page.locator('[data-source="named-fields"]')).toContainText('live');
    await world.command({ kind: 'fault', fault: 'freeze', on: true });
    await expect.poll(async () => (await world.field('home.score')).origin).toBe('named-fields');
    // It says nothing for longer than others may be silent, and its word stands.
    await page.waitForTimeout(5000);
    expect(await world.field('home.score')).toMatchObject({
      value: 7,
      quality: 'ok',
      origin: 'named-fields',
    });
  } finally {
    calls.forEach((socket) => socket.destroy());
    device.close();
  }
});
