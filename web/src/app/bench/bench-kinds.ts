import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';

const KINDS = [
  { id: 'hand', name: 'Hand tools', link: '/bench', tool: null },
  { id: 'make', name: 'Make one', link: '/bench/make', tool: null },
  { id: 'cords', name: 'Cords', link: '/bench/cords', tool: null },
  { id: 'adapters', name: 'Adapters', link: '/bench/adapters', tool: null },
  { id: 'practice', name: 'Practice', link: '/bench/practice', tool: null },
  { id: 'velocity', name: 'Velocity', link: '/bench/line', tool: 'velocity' },
  { id: 'launch', name: 'Before measuring', link: '/bench/line', tool: 'launch' },
  { id: 'break', name: 'Break a line', link: '/bench/line', tool: 'break' },
] as const;
export type BenchKind = (typeof KINDS)[number]['id'];

/** What is on the bench, to choose from. */
@Component({
  selector: 'ns-bench-kinds',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="On the bench">
      @for (each of kinds; track each.id) {
        <a
          [routerLink]="each.link"
          [queryParams]="each.tool ? { tool: each.tool } : {}"
          [attr.aria-current]="open() === each.id ? 'page' : null"
          >{{ each.name }}</a
        >
      }
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 22px;
    }
    a {
      padding: 6px 0;
      font-weight: 600;
      color: var(--ink-2);
      text-decoration: none;
      border-bottom: 3px solid transparent;
      &[aria-current] {
        color: var(--ink);
        border-color: var(--accent);
      }
    }
  `,
})
export class BenchKinds {
  readonly open = input.required<BenchKind>();
  protected readonly kinds = KINDS;
}
