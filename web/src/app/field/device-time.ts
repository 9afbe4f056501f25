import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** When something was done that waited on a device, by the clock of that device: no order rests on it. */
@Component({
  selector: 'ns-device-time',
  imports: [DatePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (at(); as at) {
      <span class="small quiet">done {{ at | date: 'd MMM HH:mm' }} by its device’s clock, sent later</span>
    }
  `,
})
export class DeviceTime {
  readonly at = input<string>();
}
