import { ChangeDetectionStrategy, Component, provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatInputHarness } from '@angular/material/input/testing';
import { NumberField } from './number-field';

@Component({
  imports: [NumberField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ns-number-field
    label="Length"
    unit="m"
    [least]="0"
    [most]="100"
    [required]="true"
    [formControl]="control"
  />`,
})
class Held {
  readonly control = new FormControl<number | null>(12.5);
}

describe('a field for a figure', () => {
  async function show() {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Held);
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const field = await loader.getHarness(MatInputHarness.with({ label: 'Length' }));
    const { control } = fixture.componentInstance;
    return { fixture, field, control, page: fixture.nativeElement as HTMLElement };
  }

  it('takes a comma as well as a point, and nothing at all for null', async () => {
    const { field, control } = await show();
    expect(await field.getValue()).toBe('12.5');
    await field.setValue('7,25');
    expect(control.value).toBe(7.25);
    await field.setValue('');
    expect(control.value).toBeNull();
    expect(control.errors).toEqual({ required: true });
  });

  it('says under the field what is out of range, and keeps what was typed', async () => {
    const { field, control, page } = await show();
    for (const [typed, words] of [
      ['-1', 'At least 0 m'],
      ['101', 'At most 100 m'],
      ['ten', 'Write a figure, such as 12.5.'],
    ] as const) {
      await field.setValue(typed);
      expect(page.querySelector('mat-hint')?.textContent).toBe(words);
      expect(control.invalid).toBeTrue();
      expect(await field.getValue()).toBe(typed);
    }
  });

  it('is greyed with its control', async () => {
    const { field, control, fixture } = await show();
    control.disable();
    await fixture.whenStable();
    expect(await field.isDisabled()).toBeTrue();
  });
});
