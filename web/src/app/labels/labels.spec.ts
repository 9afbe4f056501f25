import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { LabelOrder } from '@near-spoke/contracts';
import { labelAddress, linkCode } from '@near-spoke/core/labels';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { SHIPPED_KIT, showRoom } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { LabelReader } from './label-reader';
import { LabelsPage } from './labels-page';

const UUID = '3f2b1c9e-0d4a-4e57-9a61-7c1de0a5b214';

describe('labels of a job', () => {
  async function show() {
    const server = new FakeServer({ listForms: () => [], printLabels: () => new Blob(['%PDF-']) });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(LabelsPage, { inputs: { jobId: 'job' } });
    room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob({ id: 'job' })] }));
    room.store.dispatch(JobEvents.kitRead({ kit: SHIPPED_KIT }));
    const links = ['P1-01', 'P1-02', 'P1-03'].map((label, at) =>
      someLink({ id: `${UUID.slice(0, -1)}${at}`, jobId: 'job', label, position: at }),
    );
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links }));
    await room.settled();
    const choose = async (label: string, option: RegExp): Promise<void> => {
      const select = await room.loader.getHarness(MatSelectHarness.with({ label }));
      await select.clickOptions({ text: option });
      await room.settled();
    };
    const check = async (label: string, on: boolean): Promise<void> => {
      const box = await room.loader.getHarness(MatCheckboxHarness.with({ label }));
      await (on ? box.check() : box.uncheck());
      await room.settled();
    };
    const paper = (): SVGSVGElement => room.page.querySelector('.paper svg') as SVGSVGElement;
    return { room, server, choose, check, paper };
  }

  it('are shown at true size, both ends of every link, and what is used up is left out', async () => {
    const { room, paper } = await show();
    expect(room.text('.main-action')).toBe('6 labels, PDF');
    expect(paper().getAttribute('width')).toBe('210mm');
    expect((room.page.querySelector('.paper') as HTMLElement).style.width).toBe('210mm');
    const places = (): string[] =>
      [...paper().querySelectorAll('g > g')].map((each) => each.getAttribute('transform') ?? '');
    expect(places()[0]).toBe('translate(9 13.5)');
    const skip = await room.loader.getHarness(MatInputHarness.with({ ancestor: 'ns-number-field' }));
    await skip.setValue('2');
    await room.settled();
    expect(places()[0]).toBe('translate(64.6 13.5)');
  });

  it('are sent to be printed as they are shown, the printer’s fit worked out from what was measured', async () => {
    const { room, server, check, choose } = await show();
    await choose('Printed on', /flat 48.5/);
    await choose('Saying', /^Label only/);
    await check('At the outlet', false);
    await check('With a code to the link', true);
    const only = await room.loader.getHarness(MatInputHarness.with({ placeholder: 'P1, hall, desk' }));
    await only.setValue('p1-02');
    await room.settled();
    await (await room.loader.getHarness(MatButtonHarness.with({ text: '1 label, PDF' }))).click();
    await room.settled();
    const order = server.sent('printLabels')[0]?.body as LabelOrder;
    expect(order.linkIds).toEqual([`${UUID.slice(0, -1)}1`]);
    expect([order.ends, order.qr, order.stock.id, order.lines.near]).toEqual([
      ['near'],
      true,
      'a4-flat-48x25',
      ['{label}'],
    ]);
    expect(order.fit).toEqual({ scaleX: 1, scaleY: 1, offsetXMm: 0, offsetYMm: 0 });
  });

  it('say which cables they are not made for, and which field nobody knows', async () => {
    const { room, choose } = await show();
    await choose('Printed on', /1 x 2.25 in/);
    expect(room.text('.unsure')).toContain('Made for other cables than those of 3 links from P1-01 on');
    await choose('Saying', /your own/);
    const [near] = await room.loader.getAllHarnesses(MatInputHarness.with({ selector: 'textarea' }));
    await near?.setValue('{label} {prot}');
    await room.settled();
    expect(room.text('form [role=alert]')).toBe('There is no field {prot}.');
    const print = await room.loader.getHarness(MatButtonHarness.with({ text: /labels, PDF/ }));
    expect(await print.isDisabled()).toBeTrue();
  });
});

describe('a reader that types', () => {
  function listen() {
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    const router = TestBed.inject(Router);
    const went = spyOn(router, 'navigate').and.resolveTo(true);
    TestBed.inject(LabelReader);
    const type = (text: string, everyMs: number): KeyboardEvent => {
      let at = performance.now() + 1000;
      let last = new KeyboardEvent('keydown');
      for (const key of [...text, 'Enter']) {
        last = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
        const now = (at += everyMs);
        Object.defineProperty(last, 'timeStamp', { get: () => now });
        document.body.dispatchEvent(last);
      }
      return last;
    };
    return { went, type };
  }

  it('opens the link whose label it reads, and keeps the last key from the page', () => {
    const { went, type } = listen();
    expect(type(labelAddress('http://127.0.0.1:8080', UUID), 4).defaultPrevented).toBeTrue();
    expect(went).toHaveBeenCalledOnceWith(['/l', linkCode(UUID)]);
  });

  it('leaves alone what a hand types, and what is no label', () => {
    const { went, type } = listen();
    expect(type(labelAddress('http://127.0.0.1:8080', UUID), 120).defaultPrevented).toBeFalse();
    expect(type('5901234123457-5901234123457-5901234123457', 4).defaultPrevented).toBeFalse();
    expect(went).not.toHaveBeenCalled();
  });
});
