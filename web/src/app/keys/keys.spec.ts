import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MatDialog } from '@angular/material/dialog';
import { Preferences } from '../preferences/preferences';
import { Keys } from './keys';

/** A page with a question that has to be answered before the work goes on. */
@Component({
  selector: 'ns-asking-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asking()) {
      <p>Unplugged?</p>
    } @else {
      <button (click)="asking.set(true)"><span>Test</span></button>
    }
    <input type="text" />
    <input type="checkbox" />
    <textarea></textarea>
    <div role="menu"><span id="in-menu"></span></div>
  `,
})
class AskingPage {
  readonly asking = signal(false);
  readonly heard: string[] = [];

  constructor() {
    inject(Keys).use(
      [
        { key: 'Enter', words: 'do what is next', run: () => this.heard.push('next') },
        {
          key: 'Enter',
          words: 'yes',
          run: () => this.heard.push('yes'),
          when: () => this.asking(),
        },
        { key: 'k', words: 'key in', run: () => this.heard.push('k') },
        { key: 'PageDown', words: 'next step', run: () => this.heard.push('pedal') },
      ],
      inject(DestroyRef),
    );
  }
}

describe('keys', () => {
  let fixture: ComponentFixture<AskingPage>;
  let page: HTMLElement;

  beforeEach(async () => {
    fixture = TestBed.createComponent(AskingPage);
    page = fixture.nativeElement as HTMLElement;
    document.body.append(page);
    await fixture.whenStable();
  });

  afterEach(() => page.remove());

  const find = (selector: string): HTMLElement => page.querySelector(selector) as HTMLElement;
  const press = (
    key: string,
    on: HTMLElement = document.body,
    more: KeyboardEventInit = {},
  ): KeyboardEvent => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
    on.dispatchEvent(event);
    return event;
  };
  const heard = (): string[] => fixture.componentInstance.heard;

  it('do what the page says, in either case of the letter, and keep the browser out of it', () => {
    expect(press('k').defaultPrevented).toBeTrue();
    press('K');
    expect(heard()).toEqual(['k', 'k']);
    expect(press('j').defaultPrevented).toBeFalse();
  });

  it('leave a focused button to itself', () => {
    expect(press('Enter', find('button span')).defaultPrevented).toBeFalse();
    expect(heard()).toEqual([]);
    press('k', find('button'));
    expect(heard()).toEqual(['k']);
  });

  it('meet the page that the click before them asked for, though it is not drawn yet', () => {
    const button = find('button');
    button.focus();
    button.click();
    expect(button.isConnected).withContext('drawn later').toBeTrue();
    expect(press('Enter', button).defaultPrevented).toBeTrue();
    expect(button.isConnected).toBeFalse();
    expect(heard()).toEqual(['yes']);
  });

  it('prefer the newest that may act', () => {
    press('Enter');
    fixture.componentInstance.asking.set(true);
    press('Enter');
    expect(heard()).toEqual(['next', 'yes']);
  });

  it('stay out of fields and menus, but for the pedal in a field of one line', () => {
    for (const selector of ['input', 'textarea', '#in-menu']) press('k', find(selector));
    press('PageDown', find('textarea'));
    expect(heard()).toEqual([]);
    press('PageDown', find('input'));
    expect(heard()).toEqual(['pedal']);
  });

  it('leave combinations and what another has answered alone', () => {
    for (const with_ of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }])
      press('k', document.body, with_);
    page.addEventListener('keydown', (event) => event.preventDefault(), { once: true });
    press('k', find('button'));
    expect(heard()).toEqual([]);
  });

  it('wait while a dialog is open', () => {
    const dialog = TestBed.inject(MatDialog).open(AskingPage);
    press('k');
    expect(heard()).toEqual([]);
    dialog.close();
  });

  it('go with their page', () => {
    fixture.destroy();
    press('k');
    expect(heard()).toEqual([]);
    expect(TestBed.inject(Keys).actions()).toEqual([]);
  });

  it('are listed with what they do now', async () => {
    const open = spyOn(TestBed.inject(MatDialog), 'open');
    press('?');
    for (let turn = 0; turn < 300 && open.calls.count() === 0; turn++)
      await new Promise((later) => setTimeout(later, 10));
    const data = open.calls.mostRecent().args[1]?.data as { words: string }[];
    expect(data.map((action) => action.words)).toEqual(['do what is next', 'key in', 'next step']);
  });

  it('take a pedal’s own key for the one it was taught to stand for, until it is forgotten', async () => {
    const dialogs = TestBed.inject(MatDialog);
    const heard = fixture.componentInstance.heard;
    TestBed.inject(Keys).showList();
    await import('./key-list');
    await fixture.whenStable();
    const button = (words: string): HTMLElement | undefined =>
      [...document.querySelectorAll<HTMLElement>('mat-dialog-container button')].find((each) =>
        each.textContent?.includes(words),
      );
    for (let n = 0; n < 50 && !button('Another key'); n++) await new Promise((done) => setTimeout(done, 20));
    button('Another key')?.click();
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'B', bubbles: true, cancelable: true }));
    await fixture.whenStable();
    dialogs.closeAll();
    await fixture.whenStable();
    await new Promise((done) => setTimeout(done, 300));
    press('b');
    expect(heard).toEqual(['pedal']);
    TestBed.inject(Preferences).forgetKeys();
    press('b');
    expect(heard).toEqual(['pedal']);
  });
});
