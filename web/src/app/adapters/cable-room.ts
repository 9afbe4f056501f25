import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  conductorCode,
  conductorPaint,
  cableWires,
  COLOURS,
  colourAt,
  insulationName,
  placeWords,
  ribbonJobOf,
  typedNumber,
  type AdapterDesign,
  type Wire as Conductor,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { RibbonLay } from './ribbon-lay';
import { SaveTable } from '../ui/save-table';

/** The cable that the lead is made of: its conductors with the colour of each half, and which signal goes through which. */
@Component({
  selector: 'ns-cable-room',
  imports: [MatButtonModule, RibbonLay, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cable-room.html',
  styleUrl: './cable-room.scss',
})
export class CableRoom {
  private readonly store = inject(Store);
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter | null>();
  readonly editable = input(true);
  readonly changed = output<AdapterDesign>();

  protected readonly cables = computed(() => this.store.selectSignal(jobsFeature.selectKit)()?.cables ?? []);
  protected readonly codes = Object.keys(COLOURS);
  protected readonly name = insulationName;
  protected readonly code = conductorCode;
  protected readonly paint = conductorPaint;
  /** Conductors with what goes through each. */
  protected readonly lines = computed(() =>
    this.design().wires.map((wire) => {
      const row = this.worked()?.rows.find((each) => each.wire === wire.id);
      return {
        wire,
        net: row?.net.name ?? null,
        ends: row?.net.pins.map(placeWords).join(' = ') ?? '',
        reasons: row?.reasons.join(', ') ?? '',
      };
    }),
  );
  protected readonly ribbon = computed(() => ribbonJobOf(this.design(), this.worked()?.rows ?? []));

  constructor() {
    this.store.dispatch(JobEvents.kitNeeded());
  }

  protected choose(id: string): void {
    const cable = this.cables().find((each) => each.id === id);
    this.changed.emit({ ...this.design(), wires: cable ? cableWires(cable) : [] });
  }

  protected colourOf(wire: Conductor, end: string): string {
    return colourAt(wire, end);
  }

  protected recolour(id: string, end: string, colour: string): void {
    this.changed.emit({
      ...this.design(),
      wires: this.design().wires.map((wire) =>
        wire.id === id ? { ...wire, halves: { ...wire.halves, [end]: colour } } : wire,
      ),
    });
  }

  protected setSpares(spares: 'keep' | 'cut'): void {
    this.changed.emit({ ...this.design(), spares });
  }

  protected setLength(text: string): void {
    const lengthM = typedNumber(text);
    if (lengthM > 0 && lengthM <= 1000) this.changed.emit({ ...this.design(), lengthM });
  }
}
