import type { Command, ControllerView } from '../controller.ts';
import type { GameAction, Side } from '../game.ts';
import type { Faults } from '../line.ts';

const $ = <T extends HTMLElement>(selector: string) => document.querySelector<T>(selector)!;
let view: ControllerView | null = null;

function show(next: ControllerView): void {
  view = next;
  const { game, autopilot, faults, sent, listeners, note } = next;
  const set = (name: string, text: string) => {
    const el = $(`[data-show="${name}"]`);
    if (el.textContent !== text) el.textContent = text;
  };
  set('clock', clockText(game.clock));
  set('shot', String(Math.floor(game.shot / 1000)));
  set('period', String(game.period));
  $('.clock').dataset['still'] = String(!game.running);
  for (const side of ['home', 'away'] as const) {
    const team = game[side];
    set(`${side}.score`, String(team.score));
    set(`${side}.shots`, String(team.shots));
    set(`${side}.timeouts`, String(team.timeouts));
    $(`.team[data-side=${side}]`).dataset['ball'] = String(game.possession === side);
    showPenalties(side, team.penalties);
  }
  $('#horn').textContent = game.horn > 0 ? 'Horn' : '';
  $('#line').textContent =
    `${listeners === 1 ? '1 listener' : `${listeners} listeners`} · ${sent} frames sent`;
  if (note) $('#note').textContent = note;
  $<HTMLInputElement>('#auto-on').checked = autopilot.on;
  if (document.activeElement?.id !== 'auto-seed')
    $<HTMLInputElement>('#auto-seed').value = String(autopilot.seed);
  if (document.activeElement?.id !== 'auto-speed')
    $<HTMLInputElement>('#auto-speed').value = String(autopilot.speed);
  $('#auto-speed-shown').textContent = `${autopilot.speed}x`;
  for (const [fault, on] of Object.entries(faults))
    $(`[data-fault=${fault}]`).setAttribute('aria-pressed', String(on));
  const run = $('#run span');
  run.textContent = game.running ? 'Stop the clock' : 'Start the clock';
}

function clockText(ms: number): string {
  const tenths = Math.floor(ms / 100);
  const seconds = Math.floor(tenths / 10);
  return seconds < 60
    ? `${seconds}.${tenths % 10}`
    : `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}

function showPenalties(side: Side, penalties: ControllerView['game']['home']['penalties']): void {
  const list = $(`[data-penalties=${side}]`);
  while (list.childElementCount > penalties.length) list.lastElementChild!.remove();
  penalties.forEach((p, index) => {
    let row = list.children[index] as HTMLElement | undefined;
    if (!row) {
      row = document.createElement('li');
      row.append(document.createElement('span'));
      const end = document.createElement('button');
      end.textContent = 'end';
      end.onclick = () => game({ kind: 'end-penalty', side, index });
      row.append(end);
      list.append(row);
    }
    row.className = index < 2 ? '' : 'waits';
    const seconds = Math.floor(p.left / 1000);
    row.firstElementChild!.textContent = `#${p.player}  ${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  });
}

async function send(command: Command): Promise<void> {
  try {
    const response = await fetch('/do', { method: 'POST', body: JSON.stringify(command) });
    const answer = (await response.json()) as ControllerView & { problem: string | null };
    $('#note').textContent = answer.problem ?? '';
    if (answer.game) show(answer);
  } catch {
    $('#note').textContent = 'The simulator does not answer. Start it again with npm run demo.';
  }
}

const game = (action: GameAction) => void send({ kind: 'game', action });

/** Asks for the penalised player's number and the length in a small dialogue of its own. */
function askPenalty(side: Side): void {
  const dialog = document.createElement('dialog');
  dialog.innerHTML = `<form method="dialog"><label>Player number <input name="player" inputmode="numeric" size="3" required pattern="[0-9]{1,2}" title="0 to 99"></label>
    <p><button value="2">2 minutes</button> <button value="5">5 minutes</button> <button value="" formnovalidate>Cancel</button></p></form>`;
  document.body.append(dialog);
  dialog.addEventListener('close', () => {
    const minutes = Number(dialog.returnValue);
    const player = Number(dialog.querySelector('input')!.value);
    if (minutes === 2 || minutes === 5) game({ kind: 'penalty', side, player, minutes });
    dialog.remove();
  });
  dialog.showModal();
}

interface Key {
  key: string;
  label: string;
  bank: 'home' | 'middle' | 'away';
  press: () => void;
  id?: string;
}

const sideKeys = (side: Side, [goal, shot, penalty, timeout, ball]: string): Key[] => [
  { key: goal!, label: 'Goal', bank: side, press: () => game({ kind: 'goal', side }) },
  { key: shot!, label: 'Shot', bank: side, press: () => game({ kind: 'shot', side }) },
  { key: penalty!, label: 'Penalty', bank: side, press: () => askPenalty(side) },
  { key: timeout!, label: 'Time-out', bank: side, press: () => game({ kind: 'timeout', side }) },
  {
    key: ball!,
    label: 'Possession',
    bank: side,
    press: () => game({ kind: 'possession', side: view?.game.possession === side ? null : side }),
  },
];

const keys: Key[] = [
  ...sideKeys('home', 'asdfg'),
  {
    key: ' ',
    label: 'Start the clock',
    bank: 'middle',
    id: 'run',
    press: () => game({ kind: view?.game.running ? 'stop' : 'start' }),
  },
  { key: 'r', label: 'Shot clock 30', bank: 'middle', press: () => game({ kind: 'shot-clock', ms: 30_000 }) },
  { key: 'n', label: 'Next period', bank: 'middle', press: () => game({ kind: 'next-period' }) },
  { key: 'b', label: 'Horn', bank: 'middle', press: () => game({ kind: 'horn' }) },
  { key: 'u', label: 'Undo', bank: 'middle', press: () => game({ kind: 'undo' }) },
  ...sideKeys('away', 'lkjh;'),
];

for (const { key, label, bank, press, id } of keys) {
  const button = document.createElement('button');
  button.type = 'button';
  if (id) {
    button.id = id;
    button.className = 'wide';
  }
  button.innerHTML = '<span></span><kbd></kbd>';
  button.querySelector('span')!.textContent = label;
  button.querySelector('kbd')!.textContent = key === ' ' ? 'space' : key.toUpperCase();
  if (bank !== 'middle') button.setAttribute('aria-label', `${bank} ${label}`);
  button.onclick = () => {
    press();
    button.blur();
  };
  $(`[data-bank=${bank}]`).append(button);
}

addEventListener('keydown', (event) => {
  const typing = (event.target as HTMLElement).closest('input:not([type=checkbox], [type=range]), dialog');
  if (typing || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  const key = keys.find((k) => k.key === event.key.toLowerCase());
  if (!key) return;
  event.preventDefault();
  key.press();
});

const FAULTS: [keyof Faults, string][] = [
  ['garble', 'Garble bytes'],
  ['drop', 'Drop bytes'],
  ['freeze', 'Freeze'],
  ['disconnect', 'Disconnect'],
];
for (const [fault, label] of FAULTS) {
  const button = document.createElement('button');
  button.type = 'button';
  button.dataset['fault'] = fault;
  button.textContent = label;
  button.onclick = () => void send({ kind: 'fault', fault, on: !view?.faults[fault] });
  $('#faults').append(button);
}
const jump = document.createElement('button');
jump.type = 'button';
jump.textContent = 'Jump the clock';
jump.onclick = () => void send({ kind: 'jump' });
$('#faults').append(jump);

/** Keys are for the scorer again once a box was ticked or the speed was set. */
for (const id of ['auto-on', 'auto-speed']) $(`#${id}`).addEventListener('change', () => $(`#${id}`).blur());

const autopilot = (on: boolean) =>
  void send({
    kind: 'autopilot',
    on,
    seed: Number($<HTMLInputElement>('#auto-seed').value),
    speed: Number($<HTMLInputElement>('#auto-speed').value),
  });
$('#auto-on').onchange = () => autopilot($<HTMLInputElement>('#auto-on').checked);
$('#auto-seed').onchange = () => autopilot(view?.autopilot.on ?? false);
$('#auto-speed').oninput = () => autopilot(view?.autopilot.on ?? false);
$('#autopilot').onsubmit = (event) => event.preventDefault();
$('#new-game').onclick = () => void send({ kind: 'new-game' });
$('#set-clock').onsubmit = (event) => {
  event.preventDefault();
  const time = /^(?:(\d{1,2}):)?(\d{1,2}(?:\.\d)?)$/.exec($<HTMLInputElement>('#clock-value').value.trim());
  if (time) game({ kind: 'clock', ms: Number(time[1] ?? 0) * 60_000 + Number(time[2]) * 1000 });
  else if ($<HTMLInputElement>('#clock-value').value.trim())
    $('#note').textContent = 'The game clock is written 5:32 or 34.5.';
  const shot = $<HTMLInputElement>('#shot-value').value.trim();
  if (/^\d{1,2}$/.test(shot)) game({ kind: 'shot-clock', ms: Number(shot) * 1000 });
};

new EventSource('/events').onmessage = (event) => show(JSON.parse(event.data as string) as ControllerView);
