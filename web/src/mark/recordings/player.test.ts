import { beforeEach, expect, it, vi } from 'vitest';
import { makePlayer } from './player';

/** An element that plays as fast as the test lets it. */
class Tape extends EventTarget {
  currentTime = 0;
  duration = 60;
  paused = true;
  playbackRate = 1;
  play() {
    this.paused = false;
    this.dispatchEvent(new Event('play'));
    return Promise.resolve();
  }
  pause() {
    this.paused = true;
    this.dispatchEvent(new Event('pause'));
  }
  goOn(to: number) {
    this.currentTime = to;
    this.dispatchEvent(new Event('timeupdate'));
  }
}

beforeEach(() => {
  vi.stubGlobal('requestAnimationFrame', () => 0);
  vi.stubGlobal('cancelAnimationFrame', () => undefined);
});

const withTape = () => {
  const [tape, player] = [new Tape(), makePlayer()];
  player.attach(tape as unknown as HTMLMediaElement);
  return { tape, player };
};

it('plays a stretch and stops at its end, unless something else is played meanwhile', () => {
  const { tape, player } = withTape();
  player.play({ beginMs: 5000, endMs: 7000 });
  expect([tape.currentTime, player.playing().playing]).toEqual([5, true]);
  tape.goOn(7.02);
  expect(player.playing().playing).toBe(false);
  player.play({ beginMs: 5000, endMs: 7000 });
  player.seek(20_000);
  tape.goOn(25);
  expect(player.playing().playing).toBe(true);
});

it('plays a loop again and again', () => {
  const { tape, player } = withTape();
  player.setLoop({ beginMs: 5000, endMs: 7000 });
  player.play({ beginMs: 5000, endMs: 7000 });
  tape.goOn(7.1);
  expect([tape.currentTime, tape.paused]).toEqual([5, false]);
  player.setLoop(null);
  tape.goOn(9);
  expect(tape.paused).toBe(false);
});

it('stays in the recording, and goes faster and slower by steps', () => {
  const { tape, player } = withTape();
  player.skip(-5000);
  expect(tape.currentTime).toBe(0);
  player.seek(1e9);
  expect(tape.currentTime).toBe(60);
  player.faster(-1);
  expect(tape.playbackRate).toBe(0.75);
  for (let i = 0; i < 20; i++) player.faster(1);
  expect(player.playing().rate).toBe(3);
  const told: number[] = [];
  const leave = player.onMove((ms) => told.push(ms));
  player.seek(1500);
  leave();
  player.seek(2500);
  expect(told).toEqual([60_000, 1500]);
});
