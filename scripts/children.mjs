// Processes this script started, and only those. Node built-ins only.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './machine.mjs';

const running = [];

/** Starts a process of its own group with its output in a log file, and notes its id. */
export function start(name, command, args, env) {
  const folder = path.join(root, '.data');
  mkdirSync(folder, { recursive: true });
  // Appended, so that what a process said before it was started again is still there.
  const log = openSync(path.join(folder, `${name}.log`), running.some((r) => r.name === name) ? 'a' : 'w');
  const child = spawn(command, args, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', log, log],
    detached: true,
  });
  const pidFile = path.join(folder, `${name}.pid`);
  writeFileSync(pidFile, String(child.pid));
  const entry = { name, child, pidFile, ended: false };
  child.on('exit', () => {
    entry.ended = true;
    rmSync(pidFile, { force: true });
  });
  running.push(entry);
  return entry;
}

/**
 * Starts a process again when it ends by itself, with growing pauses; gives up after five ends within a
 * minute, since what cannot stay up will not for the sixth time.
 */
export function keepRunning(entry, startAgain, { stopping, say, giveUp }) {
  const ends = [];
  const watch = (current) =>
    current.child.on('exit', async (code, signal) => {
      if (stopping()) return;
      ends.push(Date.now());
      const recent = ends.filter((at) => Date.now() - at < 60_000).length;
      say(
        `${current.name} ended (${signal ?? code})${recent < 5 ? ', starting it again' : ''}; see .data/${current.name}.log`,
      );
      if (recent >= 5) return giveUp();
      await pause(250 * 2 ** (recent - 1));
      if (stopping()) return;
      try {
        watch(await startAgain());
      } catch (error) {
        say(error.message);
        giveUp();
      }
    });
  watch(entry);
}

export async function stop(entry) {
  if (entry.ended) return;
  entry.child.kill('SIGTERM');
  for (let i = 0; i < 80 && !entry.ended; i++) await pause(100);
  if (!entry.ended) entry.child.kill('SIGKILL');
  for (let i = 0; i < 20 && !entry.ended; i++) await pause(100);
}

/** Stops everything started here, last started first. */
export async function stopAll() {
  for (const entry of [...running].reverse()) await stop(entry);
}

/**
 * Makes this the only script of its name in this folder; false when another one is at work. Two of
 * them would stop each other's database.
 */
export function claim(name) {
  const pidFile = path.join(root, '.data', `${name}.pid`);
  try {
    const pid = Number(readFileSync(pidFile, 'utf8'));
    if (pid !== process.pid && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(`scripts/${name}.mjs`))
      return false;
  } catch {
    // Nobody's, or of a run that is gone.
  }
  mkdirSync(path.dirname(pidFile), { recursive: true });
  writeFileSync(pidFile, String(process.pid));
  process.on('exit', () => rmSync(pidFile, { force: true }));
  return true;
}

/** Ends a process that an earlier, killed run left behind; the id must still be the same program. */
export function reapStale(name, mustContain) {
  const pidFile = path.join(root, '.data', `${name}.pid`);
  if (!existsSync(pidFile)) return;
  const pid = Number(readFileSync(pidFile, 'utf8'));
  try {
    const line = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    const cwdIsOurs = readFileSync(`/proc/${pid}/environ`, 'utf8').includes(`OUTER_CAIRN_ROOT=${root}\0`);
    if (line.includes(mustContain) && cwdIsOurs) process.kill(pid, 'SIGTERM');
  } catch {
    // Gone already.
  }
  rmSync(pidFile, { force: true });
}

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Waits until a URL answers. */
export async function answers(url, entry, seconds = 60) {
  for (let i = 0; i < seconds * 5; i++) {
    if (entry?.ended) throw new Error(`${entry.name} ended before it answered; see .data/${entry.name}.log`);
    try {
      if ((await fetch(url)).ok) return;
    } catch {
      // Not yet.
    }
    await pause(200);
  }
  throw new Error(`${url} did not answer within ${seconds} s`);
}
