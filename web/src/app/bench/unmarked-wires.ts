import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  helperRoundsOf,
  identifySeconds,
  joinAtB,
  JoiningMistake,
  partPairs,
  planIdentification,
  readAtA,
  settledAtB,
  type Identified,
  type IdentifyPlan,
  type JoinsAtB,
} from '@near-spoke/core';
import { CrewHands } from '../adapters/crew-hands';
import { Tones } from '../preferences/tones';
import { CodeSign } from '../together/code-sign';
import { Together } from '../together/together';
import { WiresByTwo } from '../together/wires-by-two';

/** Where the person stands, and what was found so far. */
type Walk =
  | { at: 'plan' }
  | { at: 'B' }
  | { at: 'A again'; joins: JoinsAtB }
  | { at: 'B again'; joins: JoinsAtB; known: Identified }
  | { at: 'done'; names: Readonly<Record<number, string>> };

/** Reads groups as a person writes them: one group a line, or parted by semicolons. */
export function readGroups(text: string): string[][] {
  return text
    .split(/[\n;]/)
    .map((line) => line.split(/[\s,]+/).filter((word) => word !== ''))
    .filter((group) => group.length > 0);
}

/** Leads one person, or two, through telling unmarked conductors apart, and notices a join that was missed. */
@Component({
  selector: 'ns-unmarked-wires',
  imports: [MatButtonModule, CodeSign, WiresByTwo],
  providers: [Together],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './unmarked-wires.html',
  styleUrl: './unmarked-wires.scss',
})
export class UnmarkedWires {
  private readonly tones = inject(Tones);
  protected readonly count = signal('6');
  protected readonly hasReturn = signal(false);
  /** Somebody is at the other end, within call or with a device. */
  protected readonly helper = signal(false);
  protected readonly together = inject(Together);
  protected readonly asked = computed((): { plan: IdentifyPlan | null; why: string } => {
    const count = Number(this.count().trim() || Number.NaN);
    try {
      return {
        plan: planIdentification({ count, hasReturn: this.hasReturn(), helper: this.helper() }),
        why: '',
      };
    } catch (error) {
      return { plan: null, why: error instanceof RangeError ? error.message : String(error) };
    }
  });
  private readonly crewHands = inject(CrewHands);
  /** Minutes alone and with somebody at the other end, so that whoever is alone may call somebody first. */
  protected readonly costs = computed((): string => {
    const count = Number(this.count());
    if (!this.asked().plan || this.asked().plan?.way === 'impossible') return '';
    const [alone, helped] = [false, true].map((helper) =>
      minutesOf(
        identifySeconds(
          planIdentification({ count, hasReturn: this.hasReturn(), helper }),
          this.crewHands.hands() ?? undefined,
        ),
      ),
    );
    return `Alone about ${alone}, walking; with somebody at the other end about ${helped}.`;
  });
  protected readonly plan = computed(() => {
    const { plan } = this.asked();
    return plan?.way === 'walk' ? plan : null;
  });
  /** Rounds with a helper, as they are called across. */
  protected readonly rounds = computed(() => {
    const { plan } = this.asked();
    return plan?.way === 'helper' ? helperRoundsOf(plan) : [];
  });
  protected readonly walk = linkedSignal({ source: this.asked, computation: (): Walk => ({ at: 'plan' }) });
  protected readonly typed = linkedSignal({ source: this.walk, computation: () => '' });
  protected readonly withReturn = linkedSignal({ source: this.walk, computation: () => '' });
  protected readonly mistake = linkedSignal({ source: this.typed, computation: () => '' });
  protected readonly groups = computed(() => {
    const plan = this.plan();
    if (!plan) return [];
    return (plan.withReturn ? plan.groupsAtA.slice(1) : plan.groupsAtA).filter((g) => g.length > 1);
  });
  protected readonly alone = computed(() => {
    const plan = this.plan();
    if (!plan) return [];
    const groups = plan.withReturn ? plan.groupsAtA.slice(1) : plan.groupsAtA;
    return groups.filter((g) => g.length === 1).map((g) => g[0] as number);
  });
  protected readonly atB = computed(() => {
    const walk = this.walk();
    return walk.at === 'A again' ? walk.joins.groups.filter((g) => g.length > 1) : [];
  });
  protected readonly named = computed(() => {
    const walk = this.walk();
    return walk.at === 'done' ? Object.entries(walk.names).map(([number, name]) => ({ number, name })) : [];
  });

  protected show(): void {
    const { plan } = this.asked();
    if (plan) this.together.beginWires(plan.count, this.hasReturn());
  }

  protected go(): void {
    this.walk.set({ at: 'B' });
  }

  protected again(): void {
    this.walk.set({ at: 'plan' });
  }

  /** Names found alone are given too; those left out of the text cannot be told from forgotten ones. */
  protected found(): void {
    const plan = this.plan();
    const walk = this.walk();
    if (!plan) return;
    try {
      if (walk.at === 'B') this.foundAtB(plan);
      else if (walk.at === 'A again') this.foundAtA(plan, walk.joins);
      else if (walk.at === 'B again') this.finish(partPairs(walk.known, readGroups(this.typed()).flat()));
    } catch (error) {
      if (!(error instanceof JoiningMistake)) throw error;
      this.mistake.set(error.message);
      this.tones.wrong();
    }
  }

  private foundAtB(plan: NonNullable<ReturnType<typeof this.plan>>): void {
    const groups = readGroups(this.typed());
    refuseRepeats([...groups, ...readGroups(this.withReturn())]);
    const joins = joinAtB(plan, plan.withReturn ? [readGroups(this.withReturn()).flat(), ...groups] : groups);
    const settled = settledAtB(plan, joins);
    if (settled) this.finish(settled);
    else {
      this.walk.set({ at: 'A again', joins });
      this.tones.right();
    }
  }

  private foundAtA(plan: NonNullable<ReturnType<typeof this.plan>>, joins: JoinsAtB): void {
    const groups = readGroups(this.typed());
    refuseRepeats(groups);
    const numbers = groups.map((group) => group.map(Number));
    const unknown = numbers.flat().find((n) => !Number.isInteger(n) || n < 1 || n > plan.count);
    if (unknown !== undefined)
      throw new JoiningMistake(`The conductors here are numbered 1 to ${plan.count}: read the list again.`);
    const known = readAtA(plan, joins, numbers);
    if (known.unsure.length === 0) this.finish(known.names);
    else {
      this.walk.set({ at: 'B again', joins, known });
      this.tones.right();
    }
  }

  private finish(names: Readonly<Record<number, string>>): void {
    this.walk.set({ at: 'done', names });
    this.tones.right();
  }
}

const minutesOf = (seconds: number): string => `${Math.max(1, Math.round(seconds / 60))} min`;

function refuseRepeats(groups: readonly (readonly string[])[]): void {
  const all = groups.flat();
  const twice = all.find((name, i) => all.indexOf(name) !== i);
  if (twice !== undefined)
    throw new JoiningMistake(`${twice} is written in two places: it is in one group only.`);
}
