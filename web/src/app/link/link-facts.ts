import { computed, effect, inject, Injectable, signal } from '@angular/core';
import {
  evidenceOf,
  expectLink,
  linkEvents,
  pictureOf,
  readingsThatHold,
  type CableType,
  type ConnectorType,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { jobsFeature } from '../jobs/jobs.state';
import { WORK_OUT_BELIEF, type BeliefJob, type BeliefPictures } from './belief-work';
import { linkFeature } from './link.state';

/** What follows from the link that is open: asked of core, computed once for every room. */
@Injectable({ providedIn: 'root' })
export class LinkFacts {
  private readonly store = inject(Store);
  readonly detail = this.store.selectSignal(linkFeature.selectDetail);
  readonly kit = this.store.selectSignal(jobsFeature.selectKit);

  readonly cable = computed((): CableType | null => {
    const id = this.detail()?.link.cableTypeId;
    return this.kit()?.cables.find((cable) => cable.id === id) ?? null;
  });
  readonly near = computed(() => this.connector(this.detail()?.link.near.connectorId));
  readonly far = computed(() => this.connector(this.detail()?.link.far.connectorId));

  readonly expected = computed(() => {
    const [detail, cable, near, far] = [this.detail(), this.cable(), this.near(), this.far()];
    if (!detail || !cable || !near || !far) return null;
    const { lengthM, label } = detail.link;
    return expectLink({ cable, lengthM, scheme: detail.scheme, near, far, label });
  });
  readonly evidence = computed(() => {
    const detail = this.detail();
    return detail ? evidenceOf(linkEvents(detail)) : [];
  });
  /** What belief is asked while something about the link is in question. */
  private readonly question = computed((): BeliefJob | null => {
    const [expected, detail] = [this.expected(), this.detail()];
    const explanations = detail?.diagnosis?.explanations ?? [];
    if (!expected || !detail || explanations.length === 0) return null;
    return {
      want: 'pictures',
      question: { expected, evidence: this.evidence(), practice: detail.practice },
      wrong: detail.diagnosis?.result === 'fail',
      keys: explanations.map(({ key }) => key),
    };
  });
  private readonly told = signal<{ job: BeliefJob; pictures: BeliefPictures | null } | null>(null);
  /** What is known by all evidence; nothing while the newest is being worked out, so that no drawing belies the verdict. */
  private readonly pictures = computed(() => {
    const told = this.told();
    return told && told.job === this.question() ? told.pictures : null;
  });
  /** What explains the newest reading is still being worked out. */
  readonly workingOut = computed(() => this.question() !== null && this.told()?.job !== this.question());
  readonly picture = computed(() => {
    const expected = this.expected();
    if (!expected) return null;
    return this.pictures()?.picture ?? pictureOf(expected, readingsThatHold(this.evidence()), []);
  });
  /** What the link would look like under each explanation, in the order the diagnosis gives them. */
  readonly explanationPictures = computed(() => this.pictures()?.explanations ?? []);

  constructor() {
    const workOut = inject(WORK_OUT_BELIEF);
    effect((onCleanup) => {
      const job = this.question();
      if (!job) return;
      const working = workOut(job);
      let wanted = true;
      onCleanup(() => {
        wanted = false;
        working.cancel();
      });
      working.done.then(
        (pictures) => wanted && this.told.set({ job, pictures: pictures as BeliefPictures }),
        // Without the pictures the link is drawn by its readings alone; the verdict is the server's.
        () => wanted && this.told.set({ job, pictures: null }),
      );
    });
  }

  private connector(id: string | undefined): ConnectorType | null {
    return this.kit()?.connectors.find((connector) => connector.id === id) ?? null;
  }
}
