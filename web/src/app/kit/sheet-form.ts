import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { ConnectorPart } from '@near-spoke/core';
import type { KindedSheet } from './kit-shelf';
import {
  parseField,
  PART_FIELDS,
  SHEET_FIELDS,
  showField,
  valueAt,
  withSpan,
  withValue,
  type SheetField,
} from './sheet-fields';

const NEW_PART: ConnectorPart = {
  name: 'boot',
  kind: 'boot',
  boreMm: 7,
  outsideMm: 11,
  lengthMm: 20,
  over: 'jacket',
  split: false,
  optional: true,
};
const PART_KINDS: readonly ConnectorPart['kind'][] = [
  'boot',
  'ferrule',
  'cap',
  'hood',
  'tie',
  'sleeve',
  'nut',
  'heat-shrink',
  'solder-sleeve',
  'strain-relief',
  'load-bar',
];

/** The figures of one sheet as fields, each with what is wrong with it beside it. */
@Component({
  selector: 'ns-sheet-form',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.title) {
      <fieldset>
        <legend>{{ group.title }}</legend>
        @for (field of group.fields; track field.path) {
          <label [for]="field.path" [class.bad]="messageOf(field)">
            <span>{{ field.label }}</span>
            @if (field.choices || field.input === 'yes-no') {
              <select [id]="field.path" (change)="change(field, $any($event.target).value)">
                @if (field.nullable) {
                  <option value="" [selected]="shown(field) === ''">not known</option>
                }
                @for (word of field.choices ?? yesNo; track word) {
                  <option [value]="word" [selected]="shown(field) === word">{{ word }}</option>
                }
              </select>
            } @else {
              <input
                [id]="field.path"
                [attr.inputmode]="field.input === 'number' ? 'decimal' : null"
                [placeholder]="field.nullable ? 'unknown' : ''"
                [value]="shown(field)"
                (input)="change(field, $any($event.target).value)"
              />
            }
            <span class="unit">{{ field.unit }}</span>
            @if (messageOf(field); as message) {
              <small>{{ message }}</small>
            }
          </label>
        }
      </fieldset>
    }
    @if (parts(); as parts) {
      <fieldset>
        <legend>Parts that go round the cable, nearest the connector first</legend>
        @for (part of parts; track $index; let i = $index) {
          <div class="part">
            <label>
              <span>Kind</span>
              <select (change)="changePart(i, 'kind', $any($event.target).value)">
                @for (kind of partKinds; track kind) {
                  <option [value]="kind" [selected]="part.kind === kind">{{ kind }}</option>
                }
              </select>
            </label>
            @for (field of partFields; track field.path) {
              <label [for]="'part-' + i + field.path" [class.bad]="wrong()['parts[' + i + '].' + field.path]">
                <span>{{ field.label }}</span>
                @if (field.choices || field.input === 'yes-no') {
                  <select
                    [id]="'part-' + i + field.path"
                    (change)="changePart(i, field.path, parse(field, $any($event.target).value))"
                  >
                    @for (word of field.choices ?? yesNo; track word) {
                      <option [value]="word" [selected]="show(field, part) === word">{{ word }}</option>
                    }
                  </select>
                } @else {
                  <input
                    [id]="'part-' + i + field.path"
                    [attr.inputmode]="field.input === 'number' ? 'decimal' : null"
                    [value]="show(field, part)"
                    (input)="changePart(i, field.path, parse(field, $any($event.target).value))"
                  />
                }
                <span class="unit">{{ field.unit }}</span>
                @if (wrong()['parts[' + i + '].' + field.path]; as message) {
                  <small>{{ message }}</small>
                }
              </label>
            }
            <button matButton type="button" (click)="dropPart(i)">Drop the {{ part.name }}</button>
          </div>
        }
        <button matButton="outlined" type="button" (click)="addPart()">Add a part</button>
      </fieldset>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
    }
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
      gap: 6px 22px;
      align-items: start;
    }
    legend {
      font-weight: 700;
      padding: 6px 0;
    }
    label {
      display: grid;
      grid-template-columns: 1fr 96px 34px;
      gap: 8px;
      align-items: center;
      font-size: 15px;
    }
    label:has(input:not([inputmode])) {
      grid-column: 1 / -1;
      grid-template-columns: minmax(90px, auto) 1fr 0;
    }
    input,
    select {
      font: 500 15px var(--figures);
      min-height: 38px;
      min-width: 0;
      width: 100%;
      padding: 0 8px;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--rule-firm);
      border-radius: 6px;
    }
    label:has(select) {
      grid-template-columns: 1fr 138px 0;
    }
    .unit {
      color: var(--ink-2);
      font-size: 13px;
    }
    .bad input,
    .bad select {
      border: 2px solid var(--wrong);
    }
    small {
      grid-column: 1 / -1;
      color: var(--wrong);
    }
    .part {
      grid-column: 1 / -1;
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
      gap: 6px 22px;
      border-top: 1px solid var(--rule);
      padding-top: 8px;
    }
  `,
})
export class SheetForm {
  readonly draft = input.required<KindedSheet>();
  /** What is wrong, by path. */
  readonly wrong = input<Readonly<Record<string, string>>>({});
  readonly changed = output<KindedSheet>();

  protected readonly yesNo = ['yes', 'no'] as const;
  protected readonly partFields = PART_FIELDS;
  protected readonly partKinds = PART_KINDS;

  /** What is wrong with a field, or with one of the things that are listed in it. */
  protected messageOf({ path }: SheetField): string | undefined {
    const wrong = this.wrong();
    return wrong[path] ?? wrong[Object.keys(wrong).find((key) => key.startsWith(`${path}[`)) ?? ''];
  }
  protected readonly parse = parseField;
  protected readonly groups = computed(() => SHEET_FIELDS[this.draft().kind]);
  protected readonly parts = computed(() => {
    const draft = this.draft();
    return draft.kind === 'connector' ? draft.sheet.parts : null;
  });

  protected shown(field: SheetField): string {
    return showField(field, valueAt(this.draft().sheet, field.path));
  }

  protected show(field: SheetField, part: ConnectorPart): string {
    return showField(field, valueAt(part, field.path));
  }

  protected change(field: SheetField, text: string): void {
    const { kind, sheet } = this.draft();
    const put = field.span ? withSpan : withValue;
    this.changed.emit({ kind, sheet: put(sheet, field.path, parseField(field, text)) } as KindedSheet);
  }

  protected changePart(index: number, path: string, value: unknown): void {
    const { kind, sheet } = this.draft();
    this.changed.emit({ kind, sheet: withValue(sheet, `parts.${index}.${path}`, value) } as KindedSheet);
  }

  protected addPart(): void {
    this.putParts([...(this.parts() ?? []), NEW_PART]);
  }

  protected dropPart(index: number): void {
    this.putParts((this.parts() ?? []).filter((_, i) => i !== index));
  }

  private putParts(parts: readonly ConnectorPart[]): void {
    const draft = this.draft();
    if (draft.kind === 'connector')
      this.changed.emit({ kind: 'connector', sheet: { ...draft.sheet, parts } });
  }
}
