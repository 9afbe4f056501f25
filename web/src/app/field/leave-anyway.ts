import { ChangeDetectionStrategy, Component, inject, type Injector } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialog, MatDialogModule } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';

/** Asks before somebody signs out of a device on which something waits. */
@Component({
  selector: 'ns-leave-anyway',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ count === 1 ? 'One record is' : count + ' records are' }} not sent yet</h2>
    <mat-dialog-content>
      <p>
        They stay on this device, and are sent when you sign in here again, by nobody else. Jobs that were
        kept on it are forgotten.
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton [mat-dialog-close]="true">Sign out all the same</button>
      <button matButton="filled" [mat-dialog-close]="false">Stay</button>
    </mat-dialog-actions>
  `,
})
export class LeaveAnyway {
  protected readonly count = inject<number>(MAT_DIALOG_DATA);
}

/** Whether somebody signs out although so much is not sent yet. */
export async function leavesAnyway(injector: Injector, count: number): Promise<boolean> {
  const asked = injector
    .get(MatDialog)
    .open<LeaveAnyway, number, boolean>(LeaveAnyway, { data: count, width: '480px', maxWidth: '96vw' });
  return (await firstValueFrom(asked.afterClosed())) === true;
}
