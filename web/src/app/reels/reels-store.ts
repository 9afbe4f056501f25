import { computed, inject } from '@angular/core';
import type {
  NewPull,
  NewReel,
  NewReelEntry,
  NewVelocity,
  Problem,
  ReelRecord,
  VelocityRecord,
} from '@near-spoke/contracts';
import {
  entriesThatHold,
  reelStanding,
  lossFor,
  velocityFor,
  type CableType,
  type KnownLoss,
  type KnownVelocity,
  type ReelEvent,
  type ReelStanding,
} from '@near-spoke/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { firstValueFrom, type Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';

interface Shelf {
  reels: readonly ReelRecord[];
  velocities: readonly VelocityRecord[];
  loaded: boolean;
  busy: boolean;
  problem: Problem | null;
}

/** A reel with what is left on it. */
export interface StandingReel {
  reel: ReelRecord;
  standing: ReelStanding;
}

/** What a ledger says, in the order of its entries, corrected ones left out. */
export function standingOf({ entries }: ReelRecord): ReelStanding {
  return reelStanding(
    entriesThatHold(entries).map(({ what, lengthM, u95M }): ReelEvent =>
      what === 'measured' ? { what, lengthM, u95M: u95M ?? lengthM } : { what, lengthM },
    ),
  );
}

/** Drums and boxes with their ledgers, and the velocities measured on them. */
export const ReelsStore = signalStore(
  { providedIn: 'root' },
  withState<Shelf>({ reels: [], velocities: [], loaded: false, busy: false, problem: null }),
  withComputed(({ reels }) => ({
    standing: computed((): StandingReel[] => reels().map((reel) => ({ reel, standing: standingOf(reel) }))),
  })),
  withMethods((store, api = inject(Api)) => {
    const attempt = async (work: () => Promise<void>): Promise<boolean> => {
      patchState(store, { busy: true, problem: null });
      try {
        await work();
        return true;
      } catch (error) {
        patchState(store, { problem: problemOf(error) });
        return false;
      } finally {
        patchState(store, { busy: false });
      }
    };
    const reels = (answer: Observable<ReelRecord[]>): Promise<boolean> =>
      attempt(async () => patchState(store, { reels: await firstValueFrom(answer) }));
    return {
      clear: () => patchState(store, { problem: null }),
      load: () =>
        attempt(async () => {
          const [kept, velocities] = await Promise.all([
            firstValueFrom(api.call('listReels', {})),
            firstValueFrom(api.call('listVelocities', {})),
          ]);
          patchState(store, { reels: kept, velocities, loaded: true });
        }),
      add: (body: NewReel) => reels(api.call('addReel', { body })),
      enter: (reelId: string, body: NewReelEntry) =>
        reels(api.call('addReelEntry', { params: { reelId }, body })),
      /** Pieces that were pulled in together, with the boxes that were opened for them. */
      pulled: (body: NewPull) => reels(api.call('pullPieces', { body })),
      keepVelocity: (body: NewVelocity) =>
        attempt(async () =>
          patchState(store, { velocities: await firstValueFrom(api.call('addVelocity', { body })) }),
        ),
      /** The reel that a link's cable came from, where its draw was entered. */
      reelOf: (linkId: string): ReelRecord | null =>
        store
          .reels()
          .find(({ entries }) => entriesThatHold(entries).some((entry) => entry.linkId === linkId)) ?? null,
      /** The velocity to reckon with on a cable, of a reel where it is known. */
      velocityOf: (
        cable: Pick<CableType, 'id' | 'velocityFactor'>,
        reel: Pick<ReelRecord, 'id' | 'lot'> | null,
      ): KnownVelocity<VelocityRecord> =>
        velocityFor(store.velocities(), cable, reel ? { reelId: reel.id, lot: reel.lot } : {}),
      /** The loss to reckon with, likewise. */
      lossOf: (
        cable: Pick<CableType, 'id' | 'loss'>,
        reel: Pick<ReelRecord, 'id' | 'lot'> | null,
      ): KnownLoss<VelocityRecord> =>
        lossFor(store.velocities(), cable, reel ? { reelId: reel.id, lot: reel.lot } : {}),
    };
  }),
);

/** Where a velocity comes from, in words. */
export function velocityWords({ from, figure, u95 }: KnownVelocity<VelocityRecord>): string {
  const who = figure ? `, ${figure.by}, ${figure.at.slice(0, 10)}` : '';
  const where = {
    reel: `measured on this reel${who}`,
    lot: `measured on lot ${figure?.lot ?? ''}${who}`,
    type: `measured on another lot of this cable${who}`,
    catalogue: 'typical of this cable, not measured',
  }[from];
  return `${where}; good to ${u95.toFixed(3)}`;
}
