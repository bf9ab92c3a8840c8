import { useState, useSyncExternalStore } from 'react';
import { makePlayer, type Playing } from './player';

export type Player = Omit<ReturnType<typeof makePlayer>, 'playing' | 'attach' | 'watch'> & Playing;

/** A player for the recording of this page, with what of it is shown. */
export function usePlayer() {
  const [player] = useState(makePlayer);
  return { ...player, ...useSyncExternalStore(player.watch, player.playing) };
}
