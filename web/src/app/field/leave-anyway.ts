import { ChangeDetectionStrategy, Component, inject, type Injector } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialog, MatDialogModule } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';

interface Leaving {
  count: number;
  /** What is done, and when what waits is sent then. */
  leave: string;
  back: string;
}
const SIGNS_OUT = { leave: 'Sign out', back: 'sign in here again, by nobody else' };
export const GOES_ON_ELSEWHERE = {
  leave: 'Go on in the other crew',
  back: 'go on in this crew here again',
};

/** Asks before somebody leaves a crew or a device on which something waits. */
@Component({
  selector: 'ns-leave-anyway',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>
      {{ said.count === 1 ? 'One record is' : said.count + ' records are' }} not sent yet
    </h2>
    <mat-dialog-content>
      <p>
        They stay on this device, and are sent when you {{ said.back }}. Jobs that were kept on it are
        forgotten.
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton [mat-dialog-close]="true">{{ said.leave }} all the same</button>
      <button matButton="filled" [mat-dialog-close]="false">Stay</button>
    </mat-dialog-actions>
  `,
})
export class LeaveAnyway {
  protected readonly said = inject<Leaving>(MAT_DIALOG_DATA);
}

/** Whether somebody leaves although so much is not sent yet. */
export async function leavesAnyway(
  injector: Injector,
  count: number,
  how: Omit<Leaving, 'count'> = SIGNS_OUT,
): Promise<boolean> {
  const asked = injector.get(MatDialog).open<LeaveAnyway, Leaving, boolean>(LeaveAnyway, {
    data: { count, ...how },
    width: '480px',
    maxWidth: '96vw',
  });
  return (await firstValueFrom(asked.afterClosed())) === true;
}
