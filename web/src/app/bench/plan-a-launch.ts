import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import {
  fromTheDrawer,
  LAUNCH_LIMIT_WORDS,
  leftOver,
  lineOf,
  matchingResistors,
  planLaunch,
  typedNumber,
  typedQuantity,
  type CableType,
  type LaunchBench,
} from '@near-spoke/core';
import { SightPlot } from '../drawing/sight-plot';
import { ReelsStore, velocityWords } from '../reels/reels-store';
import { SaveTable } from '../ui/save-table';

/** What is looked for, as the reflection it makes at the far end. */
const LOOKED_FOR = [
  { id: 'end', name: 'its end, or a break', reflection: 1 },
  { id: 'poor', name: 'a bad joint or a wet stretch, 10 %', reflection: 0.1 },
  { id: 'small', name: 'a crushed spot, 5 %', reflection: 0.05 },
  { id: 'joint', name: 'a joint, 2 %', reflection: 0.02 },
] as const;
/** Impedances of lines and buses there are, ohm. */
const IMPEDANCES_OHM = [50, 75, 100, 120];
/** Generators have this impedance. */
const GENERATOR_OHM = 50;

/** What stands on the bench, as it is written on it. */
const BENCH = [
  { id: 'edge', name: 'Generator’s fastest edge', example: '5 ns', kind: 'time' },
  { id: 'pulse', name: 'Its shortest pulse', example: '20 ns', kind: 'time' },
  { id: 'bandwidth', name: 'Oscilloscope’s bandwidth, MHz', example: '100', kind: 'number' },
  { id: 'sample', name: 'Fastest sample interval', example: '1 ns', kind: 'time' },
  { id: 'points', name: 'Samples it keeps', example: '2500', kind: 'number' },
  { id: 'drawer', name: 'Resistors in the drawer, ohm', example: '47, 100, 220', kind: 'list' },
] as const;
type BenchField = (typeof BENCH)[number]['id'];

/** How to set generator and oscilloscope before measuring, and what that will show. */
@Component({
  selector: 'ns-plan-a-launch',
  imports: [DecimalPipe, SightPlot, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="cols">
      <section class="sheet pad" aria-labelledby="launch-title">
        <h2 id="launch-title">Set the launch before measuring</h2>
        <div class="fields">
          <label
            >Cable
            <select (change)="cableId.set($any($event.target).value)">
              @for (cable of cables(); track cable.id) {
                <option [value]="cable.id" [selected]="cable.id === cable0()?.id">{{ cable.name }}</option>
              }
            </select></label
          >
          <label
            >About so long, metres
            <input inputmode="decimal" [value]="length()" (input)="length.set($any($event.target).value)"
          /></label>
          <label
            >Looked for at its far end
            <select (change)="wanted.set($any($event.target).value)">
              @for (each of lookedFor; track each.id) {
                <option [value]="each.id" [selected]="each.id === wanted()">{{ each.name }}</option>
              }
            </select></label
          >
          <label
            >Noise of a sample, % of the launch
            <input inputmode="decimal" [value]="noise()" (input)="noise.set($any($event.target).value)"
          /></label>
        </div>
        <details>
          <summary>With what is on the bench</summary>
          <p class="small quiet">What stays empty is taken to be as good as is wanted.</p>
          <div class="fields">
            @for (each of benchFields; track each.id) {
              <label
                >{{ each.name }}
                <input
                  autocomplete="off"
                  [placeholder]="each.example"
                  [value]="bench()[each.id]"
                  (input)="setBench(each.id, $event)"
              /></label>
            }
          </div>
          @if (onBench().trouble; as trouble) {
            <p class="wrong" role="alert">{{ trouble }}</p>
          }
        </details>
        @if (plan(); as plan) {
          <dl>
            <dt>Pulse</dt>
            <dd class="figure">
              {{ plan.widthS * 1e9 | number: '1.0-1' }} ns wide, edges
              {{ plan.riseS * 1e9 | number: '1.0-1' }} ns
            </dd>
            <dt>Time base</dt>
            <dd class="figure">
              {{ plan.divisionS * 1e9 | number: '1.0-0' }} ns a division,
              {{ plan.recordS * 1e9 | number: '1.0-0' }} ns in all
            </dd>
            <dt>Sampling</dt>
            <dd class="figure">a sample every {{ plan.intervalS * 1e9 | number: '1.1-2' }} ns or oftener</dd>
            <dt>Blind to</dt>
            <dd class="figure">
              {{ plan.deadZoneM | number: '1.1-2' }} m from where it is clipped on; two things nearer than
              {{ plan.resolutionM | number: '1.1-2' }} m are one
            </dd>
            @if (limits(); as by) {
              <dt>Limited by</dt>
              <dd>{{ by }}</dd>
            }
            <dt>Velocity factor</dt>
            <dd>
              <span class="figure">{{ known()?.velocityFactor | number: '1.3-3' }}</span>
              <span class="quiet small plain">{{ from() }}</span>
            </dd>
          </dl>
          @if (!plan.enough) {
            <p class="unsure" role="status">
              Even the widest pulse worth sending would not show that from {{ length() }} m. Measure from both
              ends, or average.
            </p>
          }
          <h3>Smallest reflection seen, by distance</h3>
          <ns-sight-plot [points]="plan.smallest" [wanted]="chosen().reflection" />
        } @else {
          <p class="wrong" role="alert">
            Give a length from 0.5 to 20 000 m, and the noise as a share over 0.
          </p>
        }
      </section>
      <section class="sheet pad" aria-labelledby="match-title">
        <h3 id="match-title">Resistors that match</h3>
        <table #saved>
          <thead>
            <tr>
              <th scope="col">Line</th>
              <th scope="col">Closes it</th>
              <th scope="col">In series, makes 50 Ω match</th>
            </tr>
          </thead>
          <tbody>
            @for (row of matches; track row.ohm) {
              <tr [class.here]="row.ohm === cable0()?.impedanceOhm">
                <th scope="row" class="figure">{{ row.ohm }} Ω</th>
                <td class="figure">{{ row.closes }}</td>
                <td class="figure">{{ row.source }}</td>
              </tr>
            }
          </tbody>
        </table>
        <ns-save-table [table]="saved" name="Resistors that match" />
        <p class="small quiet">
          Of the E12 series, alone or two side by side (∥). What closes a line goes across its far end: then
          only what is on the way reflects. What goes in series with a 50 ohm generator keeps it from sending
          an echo out again.
        </p>
        @if (fromDrawer(); as drawer) {
          <p>
            Out of the drawer: <span class="figure">{{ drawer.words }}</span>, which leaves
            {{ drawer.left | number: '1.0-1' }} % of an echo.
          </p>
        }
        <h3>Before the clip goes on</h3>
        <ul class="small cautions">
          <li>Both ends unplugged. Prove dead: ringing and remote power hurt people and instruments.</li>
          <li>Never on a line in service, least of all a lift’s or an emergency phone.</li>
          <li>An aerial feeder picks up charge: short it for a moment first, and not in a thunderstorm.</li>
        </ul>
      </section>
    </div>
  `,
  styleUrl: './line-bench.scss',
  styles: `
    .here > * {
      background: var(--accent-soft);
      font-weight: 700;
    }
    td,
    th {
      white-space: nowrap;
    }
    th:last-child {
      white-space: normal;
    }
    .plain {
      font-weight: 400;
      margin-left: 8px;
    }
    .cautions {
      list-style: disc;
      padding-left: 18px;
      display: grid;
      gap: 4px;
    }
  `,
})
export class PlanALaunch {
  private readonly shelf = inject(ReelsStore);
  readonly cables = input.required<readonly CableType[]>();
  protected readonly lookedFor = LOOKED_FOR;
  protected readonly cableId = signal('');
  protected readonly length = signal('60');
  protected readonly wanted = signal<string>('poor');
  protected readonly noise = signal('0.5');
  protected readonly cable0 = computed(
    () => this.cables().find(({ id }) => id === this.cableId()) ?? this.cables()[0] ?? null,
  );
  protected readonly chosen = computed(
    () => LOOKED_FOR.find(({ id }) => id === this.wanted()) ?? LOOKED_FOR[0],
  );
  protected readonly known = computed(() => {
    const cable = this.cable0();
    return cable && this.shelf.velocityOf(cable, null);
  });
  protected readonly from = computed(() => {
    const known = this.known();
    return known ? velocityWords(known) : '';
  });
  protected readonly benchFields = BENCH;
  protected readonly bench = signal<Readonly<Record<BenchField, string>>>(
    Object.fromEntries(BENCH.map(({ id }) => [id, ''])) as Record<BenchField, string>,
  );
  /** What was typed of the bench, and the first field that is no figure. */
  protected readonly onBench = computed((): { has: LaunchBench; drawer: number[]; trouble: string } => {
    const typed = this.bench();
    const figures = BENCH.map(({ id, name, kind }) => {
      const text = typed[id].trim();
      if (text === '' || kind === 'list') return { id, figure: undefined, trouble: '' };
      if (kind === 'time') {
        const { figure, trouble } = typedQuantity(text, 'time', name);
        return { id, figure: figure !== null && figure > 0 ? figure : undefined, trouble };
      }
      const figure = typedNumber(text);
      return figure > 0
        ? { id, figure, trouble: '' }
        : { id, figure: undefined, trouble: `${name}: write a figure over 0.` };
    });
    const of = (id: BenchField): number | undefined => figures.find((each) => each.id === id)?.figure;
    const megahertz = of('bandwidth');
    const drawer = typed.drawer
      .split(/[;,\s]+/)
      .filter((text) => text !== '')
      .map(Number);
    const wrong = drawer.some((ohm) => !(ohm > 0))
      ? 'Resistors in the drawer: write ohms, such as 47, 100, 220.'
      : '';
    return {
      has: {
        edgeS: of('edge'),
        leastWidthS: of('pulse'),
        bandwidthHz: megahertz === undefined ? undefined : 1e6 * megahertz,
        intervalS: of('sample'),
        memory: of('points'),
      },
      drawer: drawer.filter((ohm) => ohm > 0),
      trouble: figures.find(({ trouble }) => trouble !== '')?.trouble ?? wrong,
    };
  });
  protected readonly limits = computed(() =>
    (this.plan()?.limitedBy ?? []).map((limit) => LAUNCH_LIMIT_WORDS[limit]).join(', '),
  );
  protected readonly fromDrawer = computed(() => {
    const lineOhm = this.cable0()?.impedanceOhm;
    const found = lineOhm === undefined ? null : fromTheDrawer(lineOhm, this.onBench().drawer);
    return found && lineOhm !== undefined
      ? {
          words: `${found.ohm.join(found.inARow ? ' + ' : ' ∥ ')} Ω = ${found.together.toFixed(1)} Ω`,
          left: 100 * leftOver(lineOhm, found.together),
        }
      : null;
  });
  protected readonly plan = computed(() => {
    const [cable, known, lengthM, noise] = [
      this.cable0(),
      this.known(),
      typedNumber(this.length()),
      typedNumber(this.noise()) / 100,
    ];
    if (!cable || !known || !(lengthM >= 0.5 && lengthM <= 20_000) || !(noise > 0 && noise <= 1)) return null;
    const line = lineOf(cable, { velocityFactor: known.velocityFactor });
    return planLaunch(
      { line, lengthM, reflection: this.chosen().reflection, noiseShare: noise },
      this.onBench().has,
    );
  });
  protected setBench(field: BenchField, event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.bench.update((bench) => ({ ...bench, [field]: value }));
  }

  protected readonly matches = IMPEDANCES_OHM.map((ohm) => {
    const { closes, inSeries } = matchingResistors(ohm, GENERATOR_OHM);
    return { ohm, closes: closes.ohm.join(' ∥ '), source: inSeries?.ohm.join(' ∥ ') ?? 'none' };
  });
}
