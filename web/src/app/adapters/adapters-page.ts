import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { adapterFile, designOf, fieldErrors } from '@near-spoke/contracts';
import { newEnd, type AdapterDesign } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { BenchKinds } from '../bench/bench-kinds';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { sessionFeature } from '../session/session.state';
import { AdapterBench } from './adapter-bench';
import { SaveTable } from '../ui/save-table';

const LARGEST_BYTES = 1_000_000;

/** Every adapter of the crew, a new one, or one from a file. */
@Component({
  selector: 'ns-adapters-page',
  imports: [DatePipe, MatButtonModule, RouterLink, BenchKinds, ProblemNote, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './adapters-page.html',
  styleUrl: './adapters-page.scss',
})
export class AdaptersPage {
  protected readonly bench = inject(AdapterBench);
  private readonly router = inject(Router);
  protected readonly mayWork = inject(Store).selectSignal(sessionFeature.selectMayWork);
  protected readonly name = signal('');
  protected readonly one = signal('');
  protected readonly other = signal('');
  protected readonly wrongFile = signal('');
  protected readonly complete = computed(() =>
    [this.name(), this.one(), this.other()].every((words) => words.trim() !== ''),
  );

  constructor() {
    inject(Header).show([{ name: 'Bench', link: '/bench' }, { name: 'Adapters' }]);
    this.bench.clear();
    void this.bench.load();
  }

  protected begin(event: Event): void {
    event.preventDefault();
    if (!this.complete()) return;
    this.show({
      name: this.name().trim(),
      ends: [newEnd('A', this.one().trim()), newEnd('B', this.other().trim())],
      joins: [],
      wires: [],
      lengthM: 1,
      functionTest: [],
    });
  }

  protected async read(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const [file] = input.files ?? [];
    input.value = '';
    this.wrongFile.set('');
    if (!file) return;
    if (file.size > LARGEST_BYTES) {
      this.wrongFile.set(`${file.name} is over 1 MB: that is no adapter.`);
      return;
    }
    let given: unknown;
    try {
      given = JSON.parse(await file.text());
    } catch {
      this.wrongFile.set(`${file.name} is not JSON. Choose a file that was given out as "file".`);
      return;
    }
    const parsed = adapterFile.safeParse(given);
    if (parsed.success) this.show(designOf(parsed.data));
    else {
      const [first] = fieldErrors(parsed.error);
      this.wrongFile.set(`${file.name}: ${first?.path}: ${first?.message}`);
    }
  }

  private show(design: AdapterDesign): void {
    void this.router.navigate(['/bench/adapters', this.bench.begin(design)]);
  }
}
