import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { BadPattern, layoutOfOwn, typedNumber, type ContactLayout, type OwnLayout } from '@near-spoke/core';
import { ConnectorFace } from '../drawing/connector-face';

interface Told {
  name: string;
  gender: 'plug' | 'socket';
  shape: 'grid' | 'ring';
  rows: string;
  columns: string;
  pitch: string;
  rowPitch: string;
  count: 'row by row' | 'across' | 'to and fro';
  begins: 'left' | 'right';
  contacts: string;
  radius: string;
  from: string;
  over: string;
  turns: 'clockwise' | 'counter-clockwise';
  middle: string;
  keyed: boolean;
  cue: string;
}
const USUAL: Told = {
  name: '',
  gender: 'socket',
  shape: 'grid',
  rows: '2',
  columns: '6',
  pitch: '2.54',
  rowPitch: '2.54',
  count: 'row by row',
  begins: 'left',
  contacts: '1 2 3 4',
  radius: '3.5',
  from: '0',
  over: '',
  turns: 'counter-clockwise',
  middle: '',
  keyed: false,
  cue: '',
};

function toldOf(own: OwnLayout | null): Told {
  if (!own) return USUAL;
  const { name, gender, pattern, keyed, cue } = own;
  const head = { ...USUAL, name, gender, keyed, cue, shape: pattern.shape };
  return pattern.shape === 'grid'
    ? {
        ...head,
        rows: String(pattern.rows),
        columns: String(pattern.columns),
        pitch: String(pattern.pitchMm),
        rowPitch: String(pattern.rowPitchMm),
        count: pattern.count,
        begins: pattern.begins,
      }
    : {
        ...head,
        contacts: pattern.contacts.join(' '),
        radius: String(pattern.radiusMm),
        from: String(pattern.fromDeg),
        over: pattern.overDeg === undefined ? '' : String(pattern.overDeg),
        turns: pattern.turns,
        middle: pattern.middle ?? '',
      };
}

/** A connector of one's own by grid, row or ring, drawn as it is described. */
@Component({
  selector: 'ns-own-connector',
  imports: [MatButtonModule, ConnectorFace],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './own-connector.html',
  styleUrl: './own-connector.scss',
})
export class OwnConnector {
  readonly own = input<OwnLayout | null>(null);
  readonly taken = output<OwnLayout>();
  protected readonly told = linkedSignal(() => toldOf(this.own()));

  protected readonly described = computed((): OwnLayout => {
    const told = this.told();
    const { name, gender, keyed, cue } = told;
    const head = { name: name.trim(), gender, keyed, cue: cue.trim() };
    if (told.shape === 'grid')
      return {
        ...head,
        pattern: {
          shape: 'grid',
          rows: typedNumber(told.rows),
          columns: typedNumber(told.columns),
          pitchMm: typedNumber(told.pitch),
          rowPitchMm: typedNumber(told.rowPitch),
          count: told.count,
          begins: told.begins,
        },
      };
    return {
      ...head,
      pattern: {
        shape: 'ring',
        contacts: told.contacts.trim().split(/[\s,]+/),
        radiusMm: typedNumber(told.radius),
        fromDeg: typedNumber(told.from || '0'),
        turns: told.turns,
        ...(told.over.trim() === '' ? {} : { overDeg: typedNumber(told.over) }),
        ...(told.middle.trim() === '' ? {} : { middle: told.middle.trim() }),
      },
    };
  });
  protected readonly drawn = computed((): { layout: ContactLayout | null; wrong: string } => {
    try {
      return { layout: layoutOfOwn(this.described()), wrong: '' };
    } catch (error) {
      if (error instanceof BadPattern) return { layout: null, wrong: error.message };
      throw error;
    }
  });

  protected set(change: Partial<Told>): void {
    this.told.update((told) => ({ ...told, ...change }));
  }
}
