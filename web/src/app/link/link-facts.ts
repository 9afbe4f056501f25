import { computed, inject, Injectable } from '@angular/core';
import {
  believe,
  evidenceOf,
  expectLink,
  linkEvents,
  pictureExplanation,
  pictureOf,
  readingsThatHold,
  type CableType,
  type ConnectorType,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { jobsFeature } from '../jobs/jobs.state';
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
  /** Belief about the link while something about it is in question. */
  readonly belief = computed(() => {
    const [expected, detail] = [this.expected(), this.detail()];
    const inQuestion = (detail?.diagnosis?.explanations.length ?? 0) > 0;
    return expected && detail && inQuestion ? believe(expected, this.evidence(), detail.practice) : null;
  });
  readonly picture = computed(() => {
    const expected = this.expected();
    if (!expected) return null;
    const wrong = this.detail()?.diagnosis?.result === 'fail';
    return pictureOf(
      expected,
      readingsThatHold(this.evidence()),
      wrong ? (this.belief()?.hypotheses ?? []) : [],
    );
  });
  /** What the link would look like under each explanation, in the order the diagnosis gives them. */
  readonly explanationPictures = computed(() => {
    const [expected, belief] = [this.expected(), this.belief()];
    if (!expected || !belief) return [];
    return (this.detail()?.diagnosis?.explanations ?? []).map(({ key }) => {
      const hypothesis = belief.hypotheses.find((one) => one.key === key);
      return hypothesis ? pictureExplanation(expected, hypothesis) : null;
    });
  });

  private connector(id: string | undefined): ConnectorType | null {
    return this.kit()?.connectors.find((connector) => connector.id === id) ?? null;
  }
}
