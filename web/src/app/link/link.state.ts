import type {
  Instrument,
  LinkChange,
  LinkDetail,
  NewCableWork,
  NewLinkNote,
  NewTermination,
  NewTest,
  Problem,
  TakenReading,
  TakenTest,
  TakeReading,
} from '@near-spoke/contracts';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

export const LinkEvents = createActionGroup({
  source: 'Link',
  events: {
    'Link Opened': props<{ linkId: string }>(),
    'Detail Read': props<{ detail: LinkDetail }>(),
    'Instruments Read': props<{ instruments: Instrument[] }>(),
    'Plan Edited': props<{ linkId: string; change: LinkChange }>(),
    'Plan Saved': props<{ linkId: string }>(),
    'Termination Done': props<{ linkId: string; attempt: NewTermination }>(),
    'Cable Worked': props<{ linkId: string; work: NewCableWork }>(),
    'Reading Asked': props<{ linkId: string; ask: TakenTest }>(),
    'Colours Asked': props<{ ask: TakeReading }>(),
    'Colours Seen': props<{ taken: TakenReading }>(),
    'Reading Taken': props<{ linkId: string; test: NewTest }>(),
    'Handover Given': props<{ linkId: string; id: string }>(),
    'Handover Taken Back': props<{ linkId: string; id: string; reason: string }>(),
    'Note Made': props<{ linkId: string; note: NewLinkNote }>(),
    'Record Kept': props<{
      detail: LinkDetail;
      what: 'termination' | 'cable' | 'test' | 'handover' | 'reopening' | 'note' | 'plan';
    }>(),
    'Request Failed': props<{ problem: Problem }>(),
    'Problem Read': emptyProps(),
    /** The person confirmed for this round: both ends unplugged, nothing live on them. */
    'Round Begun': emptyProps(),
  },
});

interface State {
  linkId: string | null;
  detail: LinkDetail | null;
  instruments: Instrument[];
  busy: boolean;
  /** Set while an instrument is being read. */
  reading: boolean;
  problem: Problem | null;
  /** What was recorded last, for saying so. */
  kept: 'termination' | 'cable' | 'test' | 'handover' | 'reopening' | 'note' | 'plan' | null;
  unplugged: boolean;
  coloursSeen: TakenReading | null;
}

const first: State = {
  linkId: null,
  detail: null,
  instruments: [],
  busy: false,
  reading: false,
  problem: null,
  kept: null,
  unplugged: false,
  coloursSeen: null,
};

const asked = (state: State): State => ({ ...state, busy: true, problem: null, kept: null });

export const linkFeature = createFeature({
  name: 'link',
  reducer: createReducer(
    first,
    on(LinkEvents.linkOpened, (state, { linkId }): State => ({
      ...state,
      linkId,
      detail: state.detail?.link.id === linkId ? state.detail : null,
      problem: null,
      kept: null,
      coloursSeen: null,
    })),
    on(LinkEvents.detailRead, (state, { detail }): State =>
      detail.link.id === state.linkId ? { ...state, detail } : state,
    ),
    on(LinkEvents.instrumentsRead, (state, { instruments }): State => ({ ...state, instruments })),
    on(
      LinkEvents.planEdited,
      LinkEvents.terminationDone,
      LinkEvents.cableWorked,
      LinkEvents.readingTaken,
      LinkEvents.handoverGiven,
      LinkEvents.handoverTakenBack,
      LinkEvents.noteMade,
      asked,
    ),
    on(LinkEvents.readingAsked, LinkEvents.coloursAsked, (state): State => ({
      ...asked(state),
      reading: true,
      coloursSeen: null,
    })),
    on(LinkEvents.coloursSeen, (state, { taken }): State => ({
      ...state,
      busy: false,
      reading: false,
      coloursSeen: taken,
    })),
    on(LinkEvents.recordKept, (state, { detail, what }): State => ({
      ...state,
      detail: detail.link.id === state.linkId ? detail : state.detail,
      busy: false,
      reading: false,
      kept: what,
      coloursSeen: null,
    })),
    on(LinkEvents.requestFailed, (state, { problem }): State => ({
      ...state,
      busy: false,
      reading: false,
      problem,
    })),
    on(LinkEvents.problemRead, (state): State => ({ ...state, problem: null })),
    on(LinkEvents.roundBegun, (state): State => ({ ...state, unplugged: true })),
  ),
});
