import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { Reach } from '../api/reach';
import { Header } from '../header';
import { Field } from './field';
import type { Waiting } from './field-store';
import { Sending } from './sending';
import { unlikeFields, type UnlikeField } from './unlike-fields';

interface Refused {
  one: Waiting;
  /** What is beside what, where somebody else changed the same. */
  fields: readonly UnlikeField[] | null;
  by: string;
}

/** What was done on this device and the server does not have yet; what it did not take, for a person to decide. */
@Component({
  selector: 'ns-waiting-page',
  imports: [DatePipe, RouterLink, MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './waiting-page.html',
  styleUrl: './waiting-page.scss',
})
export class WaitingPage {
  protected readonly field = inject(Field);
  protected readonly sending = inject(Sending);
  protected readonly reach = inject(Reach);
  protected readonly refused = computed(() =>
    this.field.refused().map((one): Refused => {
      const { status, current, changedBy } = one.refused ?? {};
      const both = status === 409 && one.id === 'changeLink' && current !== undefined;
      return {
        one,
        fields: both ? unlikeFields(one.body as Record<string, unknown>, current as Link) : null,
        by: changedBy ?? 'somebody',
      };
    }),
  );
  /** What goes when it can, and what is held up by what was refused. */
  protected readonly others = computed(() => {
    const ahead = this.field.ahead();
    return this.field
      .waiting()
      .filter(({ refused }) => refused === undefined)
      .map((one) => ({ one, held: !ahead.has(one.lane) }));
  });

  constructor() {
    const header = inject(Header);
    effect(() => header.show([{ name: 'What waits' }]));
    void this.field.look();
  }

  /** Sends what was typed here over what somebody else made of it: they saw neither, a person did. */
  protected sendMine({ one }: Refused): void {
    const current = one.refused?.current as Link;
    void this.field.mend(one, { ...(one.body as object), version: current.version });
  }

  protected again({ one }: Refused): void {
    void this.field.refuse(one, undefined);
  }

  protected throwAway({ one }: Refused): void {
    void this.field.throwAway(one);
  }
}
