import { TestBed } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { Actions } from '@ngrx/effects';
import { type Action } from '@ngrx/store';
import { Subject } from 'rxjs';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { SHIPPED_KIT, showRoom } from '../testing/rooms';
import { ImportList } from './import-list';

async function show(units: 'metric' | 'imperial' = 'metric') {
  const events = new Subject<Action>();
  const closed = jasmine.createSpy('closed');
  const data = { job: someJob({ units }), kit: SHIPPED_KIT, links: [someLink({ label: 'A-09' })] };
  TestBed.configureTestingModule({
    providers: [
      { provide: MAT_DIALOG_DATA, useValue: data },
      { provide: MatDialogRef, useValue: { close: closed } },
      { provide: Actions, useValue: events },
    ],
  });
  const room = await showRoom(ImportList);
  const paste = async (...rows: string[]): Promise<void> => {
    const cells = await room.loader.getHarness(MatInputHarness.with({ label: /^Cells/ }));
    await cells.setValue(rows.join('\n'));
  };
  const add = () => [...room.page.querySelectorAll('button')].at(-1) as HTMLButtonElement;
  return { room, paste, add, events, closed };
}

describe('links from a spreadsheet', () => {
  it('finds its columns by their heads, reads feet as they are headed, and adds all', async () => {
    const { room, paste, add, events, closed } = await show();
    await paste(
      'Ticket hall\t\t\t\t',
      'Link\tPort\tDevice\tRoom\tLength (ft)',
      'A-01\t1\tdesk 1\tHall\t100',
      'A-02\t2\tdesk 2\tHall\t50',
    );
    expect(room.text('tbody')).toContain('A-01P1, 1desk 1, Hall30.5 mCat 6 unscreened');
    expect(add().textContent?.trim()).toBe('Add 2 links');
    add().click();
    const sent = room.asked.at(-1) as ReturnType<typeof JobEvents.linksDrafted>;
    expect(sent.links.map(({ label, port, lengthM }) => [label, port, lengthM])).toEqual([
      ['A-01', '1', 30.48],
      ['A-02', '2', 15.24],
    ]);
    // Sent again, because no answer came, they are the same links.
    add().click();
    const again = room.asked.at(-1) as ReturnType<typeof JobEvents.linksDrafted>;
    expect(again.links.map(({ id }) => id)).toEqual(sent.links.map(({ id }) => id));
    events.next(JobEvents.linksAdded({ jobId: 'job', links: [] }));
    expect(closed).toHaveBeenCalled();
  });

  it('names each cell that has to be mended, and adds nothing by halves', async () => {
    const { room, paste, add } = await show();
    await paste('Label,Port,Outlet,Room,Length', 'A-09,7,desk,Hall,12', 'B-01,8,desk,Hall,far');
    expect(room.text('.troubles')).toContain('Row 2, label: A-09 stands in this job already.');
    expect(room.text('.troubles')).toContain('Row 3, length: far is no length');
    expect(room.text('[role=status]')).toBe('2 cells have to be mended first: nothing is added by halves.');
    expect(add().disabled).toBeTrue();
  });

  it('asks for the columns that it does not know, and for what holds for all', async () => {
    const { room, paste, add } = await show('imperial');
    await paste('one,2,desk,120', 'two,3,desk,90');
    expect(room.text('[role=status]')).toBe('Say which column holds the label.');
    const column = async (field: string, name: string): Promise<void> => {
      const select = await room.loader.getHarness(MatSelectHarness.with({ label: field }));
      await select.open();
      await select.clickOptions({ text: name });
    };
    await column('Label', 'one');
    await column('Port', '2');
    await column('Outlet', 'desk');
    await column('Length', '120');
    const hall = await room.loader.getHarness(MatInputHarness.with({ label: 'Far room of all' }));
    await hall.setValue('Gallery');
    expect(add().textContent?.trim()).toBe('Add 2 links');
    expect(room.text('tbody')).toContain('120 ft');
  });
});
