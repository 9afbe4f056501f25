import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  APPLICATIONS,
  POWER_TYPES,
  type ApplicationId,
  type CableType,
  type Carries,
} from '@near-spoke/core';
import { NumberField } from '../ui/number-field';

type Use = 'load' | 'bus' | '';

/** What a link is to carry, asked for by the kind of its cable: data and power, a signal, or a load of its own. */
@Component({
  selector: 'ns-carries-form',
  imports: [ReactiveFormsModule, MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './carries-form.html',
  styleUrl: './carries-form.scss',
})
export class CarriesForm {
  readonly cable = input<CableType>();
  readonly carries = input.required<Carries>();
  readonly disabled = input(false);
  /** What it says now; null while a field is wrong or a figure is missing. */
  readonly changed = output<Carries | null>();

  protected readonly applications = APPLICATIONS;
  protected readonly powers = POWER_TYPES;
  protected readonly kind = computed((): 'signal' | 'data' | 'other' => {
    const cable = this.cable();
    if (cable?.family === 'coax') return 'signal';
    return !cable || (cable.family === 'balanced' && cable.use === undefined) ? 'data' : 'other';
  });

  protected readonly form = inject(FormBuilder).group({
    data: ['' as ApplicationId | ''],
    power: [''],
    deviceW: [null as number | null],
    supplyV: [null as number | null],
    between: [false],
    signal: [false],
    unit: ['dBmV' as 'dBmV' | 'dBuV' | 'dBm'],
    sourceDb: [null as number | null],
    fromMhz: [null as number | null],
    toMhz: [null as number | null],
    leastDb: [null as number | null],
    mostDb: [null as number | null],
    passiveDb: [0 as number | null],
    use: ['' as Use],
    sourceV: [null as number | null],
    loadW: [null as number | null],
    loadA: [null as number | null],
    leastV: [null as number | null],
    wires: [1 as number | null],
    law: ['rs-485' as 'rs-485' | 'can'],
    kbit: [null as number | null],
  });
  private readonly turn = signal(0);
  private readonly value = computed(() => {
    this.turn();
    return this.form.getRawValue();
  });
  protected readonly power = computed(() => this.powers.find(({ id }) => id === this.value().power));
  protected readonly use = computed(() => this.value().use ?? '');
  protected readonly signalAsked = computed(() => this.value().signal === true);

  constructor() {
    effect(() => {
      const carries = this.carries();
      untracked(() => {
        this.form.reset(fieldsOf(carries), { emitEvent: false });
        this.turn.update((turn) => turn + 1);
      });
    });
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => {
      this.turn.update((turn) => turn + 1);
      this.changed.emit(this.form.invalid ? null : this.said());
    });
    effect(() => {
      if (this.disabled()) this.form.disable({ emitEvent: false });
    });
  }

  private said(): Carries | null {
    const given = this.form.getRawValue();
    const carries: Carries = given.between ? { betweenBuildings: true } : {};
    if (this.kind() === 'data') {
      if (given.data) carries.data = given.data;
      if (given.power) {
        if (given.deviceW === null) return null;
        const { power: type, deviceW, supplyV } = given;
        carries.power = { type, deviceW, ...(supplyV === null ? {} : { sourceV: supplyV }) };
      }
    }
    if (this.kind() === 'signal' && given.signal) {
      const { unit, sourceDb, fromMhz, toMhz, leastDb, mostDb, passiveDb } = given;
      if (sourceDb === null || fromMhz === null || toMhz === null || leastDb === null || mostDb === null)
        return null;
      carries.signal = {
        unit: unit ?? 'dBmV',
        sourceDb,
        fromMhz,
        toMhz,
        leastDb,
        mostDb,
        passiveDb: passiveDb ?? 0,
      };
    }
    if (this.kind() === 'other' && given.use === 'load') {
      const { sourceV, loadW, loadA, leastV, wires } = given;
      if (sourceV === null || leastV === null || (loadW === null) === (loadA === null)) return null;
      carries.load = {
        sourceV,
        leastV,
        wires: wires ?? 1,
        ...(loadW === null ? { loadA: loadA ?? 0 } : { loadW }),
      };
    }
    if (this.kind() === 'other' && given.use === 'bus') {
      if (given.kbit === null) return null;
      carries.bus = { law: given.law ?? 'rs-485', bitPerS: given.kbit * 1000 };
    }
    return carries;
  }
}

/** The fields as they stand for what a link carries. */
function fieldsOf({ data, power, signal, load, bus, betweenBuildings }: Carries) {
  return {
    data: (data ?? '') as ApplicationId | '',
    power: power?.type ?? '',
    deviceW: power?.deviceW ?? null,
    supplyV: power?.sourceV ?? null,
    between: betweenBuildings === true,
    signal: signal !== undefined,
    unit: signal?.unit ?? ('dBmV' as const),
    sourceDb: signal?.sourceDb ?? null,
    fromMhz: signal?.fromMhz ?? null,
    toMhz: signal?.toMhz ?? null,
    leastDb: signal?.leastDb ?? null,
    mostDb: signal?.mostDb ?? null,
    passiveDb: signal?.passiveDb ?? 0,
    use: (load ? 'load' : bus ? 'bus' : '') as Use,
    sourceV: load?.sourceV ?? null,
    loadW: load?.loadW ?? null,
    loadA: load?.loadA ?? null,
    leastV: load?.leastV ?? null,
    wires: load?.wires ?? 1,
    law: bus?.law ?? ('rs-485' as const),
    kbit: bus ? bus.bitPerS / 1000 : null,
  };
}
