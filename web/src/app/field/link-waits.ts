import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Field } from './field';

/** Says of a link what only this device knows, and that its verdict is this device's own. */
@Component({
  selector: 'ns-link-waits',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (mine().length > 0) {
      <p class="small" role="note">
        <strong
          >{{ mine().length === 1 ? 'One record' : mine().length + ' records' }} of this link
          {{
            held()
              ? 'the server did not take.'
              : mine().length === 1
                ? 'waits to be sent.'
                : 'wait to be sent.'
          }}</strong
        >
        @if (held()) {
          It is not part of what is shown here.
        } @else if (judged()) {
          The verdict is this device’s own, and not yet confirmed.
        }
        {{ ' ' }}<a routerLink="/waiting">What waits</a>
      </p>
    }
  `,
  styles: `
    p {
      padding: 8px 14px;
      border: 1px dashed var(--unsure);
      border-radius: var(--round);
      background: var(--sheet);
    }
  `,
})
export class LinkWaits {
  private readonly field = inject(Field);
  readonly linkId = input.required<string>();
  protected readonly mine = computed(() => this.field.waiting().filter(({ lane }) => lane === this.linkId()));
  protected readonly held = computed(() => this.mine().some(({ refused }) => refused !== undefined));
  protected readonly judged = computed(() => this.mine().some(({ verdict }) => verdict !== undefined));
}
