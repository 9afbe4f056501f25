import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { saveFile } from './save-file';
import { tableCells, type TableCells } from './table-cells';

/** Rows as CSV (RFC 4180); what a spreadsheet would take for a formula is made text. */
export async function csvOf({ head, rows }: TableCells): Promise<Blob> {
  const {
    default: { unparse },
  } = await import('papaparse');
  const text = unparse({ fields: head, data: rows }, { escapeFormulae: true });
  return new Blob(['\ufeff', text, '\r\n'], { type: 'text/csv;charset=utf-8' });
}

/** Rows as a workbook of one sheet (ISO/IEC 29500); words are words in it, whatever they begin with. */
export async function xlsxOf({ head, rows }: TableCells, sheet: string): Promise<Blob> {
  const { default: write } = await import('write-excel-file/browser');
  const widths = head.map((name, at) =>
    Math.min(60, Math.max(name.length, ...rows.map((row) => String(row[at] ?? '').length)) + 2),
  );
  const cells = [
    head.map((value) => ({ value, type: String, fontWeight: 'bold' as const })),
    ...rows.map((row) =>
      row.map((value) => (typeof value === 'number' ? { value, type: Number } : { value, type: String })),
    ),
  ];
  return write(cells, {
    columns: widths.map((width) => ({ width })),
    sheet: sheet.replace(/[[\]:*?/\\]/g, ' ').slice(0, 31),
    stickyRowsCount: 1,
  }).toBlob();
}

/** Takes a table that a person sees along, as CSV or as a workbook. */
@Component({
  selector: 'ns-save-table',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton type="button" [matMenuTriggerFor]="menu" [attr.aria-label]="'Take along: ' + name()">
      Take along
    </button>
    <mat-menu #menu="matMenu">
      <button mat-menu-item type="button" (click)="saveCsv()">{{ name() }}, CSV</button>
      <button mat-menu-item type="button" (click)="saveXlsx()">{{ name() }}, XLSX</button>
    </mat-menu>
  `,
  styles: `
    :host {
      display: block;
      justify-self: end;
    }
    @media print {
      :host {
        display: none;
      }
    }
  `,
})
export class SaveTable {
  /** The table on the page, or what it stands in. */
  readonly table = input.required<HTMLElement>();
  /** What it holds: the name of the file. */
  readonly name = input.required<string>();

  protected async saveCsv(): Promise<void> {
    saveFile(this.file('csv'), await csvOf(this.cells()));
  }

  protected async saveXlsx(): Promise<void> {
    saveFile(this.file('xlsx'), await xlsxOf(this.cells(), this.name()));
  }

  private cells(): TableCells {
    const given = this.table();
    const table = given instanceof HTMLTableElement ? given : given.querySelector('table');
    return table ? tableCells(table) : { head: [], rows: [] };
  }

  private file(kind: string): string {
    const name = this.name()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '');
    return `${name}.${kind}`;
  }
}
