import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';

const KINDS = [
  { id: 'connector', name: 'Connectors' },
  { id: 'cable', name: 'Cables' },
  { id: 'tool', name: 'Tools' },
  { id: 'reels', name: 'Reels' },
] as const;

/** What the kit holds, to choose from. */
@Component({
  selector: 'ns-kit-kinds',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="kinds" role="group" aria-label="What to show">
      @for (each of kinds; track each.id) {
        <a [routerLink]="['/kit', each.id]" [attr.aria-current]="open() === each.id ? 'page' : null">{{
          each.name
        }}</a>
      }
    </div>
  `,
  styles: `
    .kinds {
      display: grid;
      grid-template-columns: 1.35fr 1fr 0.85fr 0.85fr;
      border: 1px solid var(--rule-firm);
      border-radius: 6px;
      overflow: hidden;
    }
    a {
      text-align: center;
      padding: 8px 0;
      font-weight: 600;
      font-size: 14px;
      color: var(--ink);
      text-decoration: none;
      &[aria-current] {
        background: var(--accent);
        color: var(--on-accent);
      }
    }
  `,
})
export class KitKinds {
  readonly open = input.required<string>();
  protected readonly kinds = KINDS;
}
