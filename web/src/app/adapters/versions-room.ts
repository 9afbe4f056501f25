import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import type { AdapterRecord, AdapterVersion } from '@near-spoke/contracts';
import { compareDesigns, type AdapterDesign } from '@near-spoke/core';
import { adapterFileAddress } from '../api/api';
import { AdapterBench } from './adapter-bench';
import { SaveTable } from '../ui/save-table';

/** Every version of an adapter, and what one has otherwise than what lies on the bench now. */
@Component({
  selector: 'ns-versions-room',
  imports: [DatePipe, MatButtonModule, SaveTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet">
      <h2>Versions</h2>
      <ul>
        @for (each of record().versions; track each.version) {
          <li>
            <button
              type="button"
              class="line"
              [attr.aria-pressed]="old()?.version === each.version"
              (click)="compare(each.version)"
            >
              <strong>Version {{ each.version }}</strong>
              <span class="small quiet">{{ each.at | date: 'd MMM y, HH:mm' }}, {{ each.by }}</span>
              <span>{{ each.note }}</span>
            </button>
          </li>
        }
      </ul>
    </section>
    <section class="sheet">
      @if (old(); as old) {
        <h2>Version {{ old.version }} against the bench now</h2>
        @if (changes().length === 0) {
          <p>Nothing is different.</p>
        } @else {
          <table #saved>
            <thead>
              <tr>
                <th>Where</th>
                <th>Version {{ old.version }}</th>
                <th>Now</th>
              </tr>
            </thead>
            <tbody>
              @for (change of changes(); track change.what + change.where) {
                <tr>
                  <td class="figure">
                    <span class="small quiet">{{ change.what }}</span> {{ change.where }}
                  </td>
                  <td>{{ change.before ?? 'not there' }}</td>
                  <td>{{ change.after ?? 'not there' }}</td>
                </tr>
              }
            </tbody>
          </table>
          <ns-save-table [table]="saved" name="Differences" />
          @if (editable()) {
            <button matButton="outlined" (click)="taken.emit(old.design)">
              Put version {{ old.version }} back on the bench
            </button>
          }
        }
        <p class="small">
          <a [href]="sheet(old.version)" download>Build sheet of version {{ old.version }}</a>
        </p>
      } @else {
        <p class="quiet">Choose a version: what it has otherwise is listed here.</p>
      }
    </section>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 320px minmax(0, 1fr);
      gap: 14px;
      align-items: start;
      overflow: auto;
    }
    section {
      padding: 16px 20px;
      display: grid;
      gap: 10px;
      justify-items: start;
    }
    ul {
      display: grid;
      gap: 4px;
      width: 100%;
    }
    .line {
      display: grid;
      gap: 1px;
      width: 100%;
      font: inherit;
      color: var(--ink);
      text-align: left;
      background: none;
      border: 1px solid var(--rule);
      border-radius: 6px;
      padding: 8px 12px;
      cursor: pointer;
      &[aria-pressed='true'] {
        background: var(--accent-soft);
        border-color: var(--accent);
      }
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th,
    td {
      text-align: left;
      vertical-align: baseline;
      padding: 5px 12px 5px 0;
      border-bottom: 1px solid var(--rule);
      font-weight: 400;
    }
    th {
      color: var(--ink-2);
      font-size: 14px;
    }
    @media (max-width: 1080px) {
      :host {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class VersionsRoom {
  private readonly bench = inject(AdapterBench);
  readonly record = input.required<AdapterRecord>();
  readonly design = input.required<AdapterDesign>();
  readonly editable = input(true);
  readonly taken = output<AdapterDesign>();
  protected readonly old = signal<AdapterVersion | null>(null);
  protected readonly changes = computed(() => {
    const old = this.old();
    return old ? compareDesigns(old.design, this.design()) : [];
  });

  protected async compare(version: number): Promise<void> {
    this.old.set(await this.bench.version(version));
  }

  protected sheet(version: number): string {
    return adapterFileAddress('adapterSheet', this.record().id, version);
  }
}
