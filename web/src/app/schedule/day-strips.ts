import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { clockWords, visitWords, type Visit } from '@near-spoke/core';
import { dayWords } from './days-draft';

interface Block {
  visit: Visit;
  left: number;
  wide: number;
  words: string;
  place: string;
}

const HOUR = 60;

/** Days as strips to one scale of hours, one for each person, with what is done when; below them the same as a list. */
@Component({
  selector: 'ns-day-strips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './day-strips.html',
  styleUrl: './day-strips.scss',
})
export class DayStrips {
  readonly visits = input.required<readonly Visit[]>();
  /** Somebody whose days alone are looked at. */
  readonly only = input<string | null>(null);
  /** The task that stands out. */
  readonly lit = input<string | null>(null);
  readonly point = output<string | null>();

  private readonly shown = computed(() => {
    const only = this.only();
    return only === null ? this.visits() : this.visits().filter(({ people }) => people.includes(only));
  });
  /** From which hour to which all days are drawn. */
  protected readonly hours = computed(() => {
    const from = Math.min(480, ...this.visits().map((visit) => visit.from));
    const to = Math.max(960, ...this.visits().map((visit) => visit.to));
    const [first, last] = [Math.floor(from / HOUR), Math.ceil(to / HOUR)];
    return Array.from({ length: last - first + 1 }, (_, n) => first + n);
  });
  protected readonly days = computed(() => {
    const [first = 8, last = 16] = [this.hours()[0], this.hours().at(-1)];
    const percent = (minute: number): number => (100 * (minute - first * HOUR)) / ((last - first) * HOUR);
    const days = [...new Set(this.shown().map(({ day }) => day))];
    return days.map((day) => {
      const own = this.shown().filter((visit) => visit.day === day);
      const names = [...new Set(own.flatMap(({ people }) => people))].filter(
        (name) => this.only() === null || name === this.only(),
      );
      return {
        day,
        words: dayWords(day),
        strips: names.sort().map((name) => ({
          name,
          blocks: own
            .filter(({ people }) => people.includes(name))
            .map((visit): Block => ({
              visit,
              left: percent(visit.from),
              wide: percent(visit.to) - percent(visit.from),
              words: this.words(visit),
              place: visit.places.at(visit.kind === 'pull' ? 1 : 0) ?? '',
            })),
        })),
        visits: own.map((visit) => ({
          visit,
          when: `${clockWords(visit.from)} to ${clockWords(visit.to)}`,
          who: visit.people.join(' and '),
          words: visitWords(visit),
        })),
      };
    });
  });

  private words(visit: Visit): string {
    return `${clockWords(visit.from)} to ${clockWords(visit.to)}: ${visitWords(visit)}`;
  }

  protected hourAt = (n: number): number => (100 * n) / Math.max(1, this.hours().length - 1);
}
