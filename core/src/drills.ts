/** Drills: apart from the rest, so that only practice loads them. */
export * from './drills/drill-book.js';
export {
  DRILL_KINDS,
  isRightReply,
  type ChoiceDrill,
  type Drill,
  type DrillKind,
  type DrillReply,
  type LayingDrill,
  type DrillOption,
  type DrillPicture,
} from './drills/drill.js';
