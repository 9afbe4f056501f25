import { inject, Injectable, PendingTasks, type OnDestroy } from '@angular/core';

interface Waiting {
  timer: ReturnType<typeof setTimeout>;
  work: () => void;
  done: () => void;
}

/**
 * Work in a task of its own after what is shown was drawn, the newest of each name; what still waits when its screen goes, or the
 * page, is done at once, so that nothing is lost by it. A page is not at rest while something waits.
 */
@Injectable()
export class Later implements OnDestroy {
  private readonly tasks = inject(PendingTasks);
  private readonly waiting = new Map<string, Waiting>();
  private readonly atOnce = (): void => {
    for (const name of [...this.waiting.keys()]) this.do(name);
  };

  constructor() {
    addEventListener('pagehide', this.atOnce);
  }

  soon(name: string, work: () => void): void {
    const before = this.waiting.get(name);
    if (before) {
      before.work = work;
      return;
    }
    const done = this.tasks.add();
    this.waiting.set(name, { timer: setTimeout(() => this.do(name)), work, done });
  }

  private do(name: string): void {
    const waiting = this.waiting.get(name);
    if (!waiting) return;
    this.waiting.delete(name);
    clearTimeout(waiting.timer);
    try {
      waiting.work();
    } finally {
      waiting.done();
    }
  }

  ngOnDestroy(): void {
    removeEventListener('pagehide', this.atOnce);
    this.atOnce();
  }
}
