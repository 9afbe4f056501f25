import { benchScope, newTrace, takenTrace, takeTrace, traceRecord } from './reflectometry.js';
import * as z from 'zod';
import {
  adapterRecord,
  adapterSummary,
  adapterVersion,
  newAdapterPhoto,
  newAdapterVersion,
  newBuild,
} from './adapters.js';
import { job, jobChange, link, linkChange, newJob, newLinks } from './jobs.js';
import { kit, kitFile, kitImported, kitKind, kitVersion, newSheet, spoilCount, typeId } from './kit.js';
import {
  crewChange,
  crewMember,
  demoSignIn,
  newCrewMember,
  sessionState,
  setup,
  signIn,
  type Role,
} from './people.js';
import {
  activity,
  checkCord,
  cordChecked,
  instrument,
  linkDetail,
  newCableWork,
  newHandover,
  newTermination,
  newTest,
  jobFigures,
  jobPatterns,
  newRound,
  newTests,
  practiceBreak,
  practiceId,
  practiceRead,
  practiceRevealed,
  practiceStarted,
  takenReading,
  takeReading,
  testingRound,
  testsKept,
} from './records.js';
import { linkEnd } from './readings.js';
import { newReel, newReelEntry, newVelocity, reelRecord, velocityRecord } from './reels.js';
import { uuid } from './text.js';

/** Who may call an endpoint: anyone, anyone signed in, or certain roles. */
export type Access = 'anyone' | readonly Role[];

export interface Endpoint {
  method: 'get' | 'post' | 'patch' | 'delete';
  path: string;
  summary: string;
  access: Access;
  params?: z.ZodObject;
  body?: z.ZodType;
  /** JSON answer; endpoints that send a file name its media type instead. */
  response?: z.ZodType;
  file?: string;
}

const everyone = ['lead', 'technician', 'viewer'] as const;
const workers = ['lead', 'technician'] as const;
const leads = ['lead'] as const;
const inJob = z.object({ jobId: uuid });
const onLink = z.object({ linkId: uuid });
const ofAdapter = z.object({ adapterId: uuid });
const ofVersion = ofAdapter.extend({
  version: z.string().regex(/^[1-9]\d{0,5}$/, { error: 'A version is a number from 1.' }),
});
const health = z.object({ status: z.string(), version: z.string(), database: z.string() });

/**
 * Every route there is: path, shapes and who may use it. The server binds its handlers to this
 * table and refuses to start with one missing; the OpenAPI document is made from it.
 */
export const endpoints = {
  health: {
    method: 'get',
    path: '/api/health',
    summary: 'Whether the application can serve',
    access: 'anyone',
    response: health,
  },
  openapi: {
    method: 'get',
    path: '/api/openapi.json',
    summary: 'This description',
    access: 'anyone',
    response: z.record(z.string(), z.unknown()),
  },

  session: {
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    access: 'anyone',
    response: sessionState,
  },
  signIn: {
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    access: 'anyone',
    body: signIn,
    response: sessionState,
  },
  demoSignIn: {
    method: 'post',
    path: '/api/session/demo',
    summary: 'Enter the demo as one of its people (loopback only)',
    access: 'anyone',
    body: demoSignIn,
    response: sessionState,
  },
  signOut: {
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    access: everyone,
    response: sessionState,
  },
  setup: {
    method: 'post',
    path: '/api/setup',
    summary: 'Make the first lead',
    access: 'anyone',
    body: setup,
    response: sessionState,
  },

  listCrew: {
    method: 'get',
    path: '/api/crew',
    summary: 'The crew',
    access: everyone,
    response: z.array(crewMember),
  },
  addCrew: {
    method: 'post',
    path: '/api/crew',
    summary: 'Add a person',
    access: leads,
    body: newCrewMember,
    response: crewMember,
  },
  changeCrew: {
    method: 'patch',
    path: '/api/crew/:crewId',
    summary: 'Change a person’s role or passphrase',
    access: leads,
    params: z.object({ crewId: uuid }),
    body: crewChange,
    response: crewMember,
  },

  kit: {
    method: 'get',
    path: '/api/kit',
    summary: 'Cable, connector and tool types as they are now',
    access: everyone,
    response: kit,
  },
  saveSheet: {
    method: 'post',
    path: '/api/kit',
    summary: 'Keep a sheet: a new type, or the next version of one',
    access: workers,
    body: newSheet,
    response: kitVersion,
  },
  kitVersions: {
    method: 'get',
    path: '/api/kit/:kind/:typeId',
    summary: 'Every version of one sheet, newest first',
    access: everyone,
    params: z.object({ kind: kitKind, typeId }),
    response: z.array(kitVersion),
  },
  exportKit: {
    method: 'get',
    path: '/api/kit.json',
    summary: 'The whole kit as a file',
    access: everyone,
    file: 'application/json',
  },
  importKit: {
    method: 'post',
    path: '/api/kit/import',
    summary: 'Take sheets from a file, all or none',
    access: workers,
    body: kitFile,
    response: kitImported,
  },
  spoilCounts: {
    method: 'get',
    path: '/api/spoils',
    summary: 'Connectors used and spoiled, by person and type',
    access: everyone,
    response: z.array(spoilCount),
  },

  listReels: {
    method: 'get',
    path: '/api/reels',
    summary: 'Drums and boxes of cable with their ledgers',
    access: everyone,
    response: z.array(reelRecord),
  },
  addReel: {
    method: 'post',
    path: '/api/reels',
    summary: 'Enter a drum or a box',
    access: workers,
    body: newReel,
    response: z.array(reelRecord),
  },
  addReelEntry: {
    method: 'post',
    path: '/api/reels/:reelId/entries',
    summary: 'Enter a draw or a measurement in a reel’s ledger, or correct one',
    access: workers,
    params: z.object({ reelId: uuid }),
    body: newReelEntry,
    response: z.array(reelRecord),
  },
  listVelocities: {
    method: 'get',
    path: '/api/velocities',
    summary: 'Velocity factors that were measured, newest first',
    access: everyone,
    response: z.array(velocityRecord),
  },
  addVelocity: {
    method: 'post',
    path: '/api/velocities',
    summary: 'Keep a velocity factor that was measured',
    access: workers,
    body: newVelocity,
    response: z.array(velocityRecord),
  },

  listJobs: {
    method: 'get',
    path: '/api/jobs',
    summary: 'All jobs with their stages',
    access: everyone,
    response: z.array(job),
  },
  addJob: {
    method: 'post',
    path: '/api/jobs',
    summary: 'Start a job',
    access: leads,
    body: newJob,
    response: job,
  },
  changeJob: {
    method: 'patch',
    path: '/api/jobs/:jobId',
    summary: 'Change a job',
    access: leads,
    params: inJob,
    body: jobChange,
    response: job,
  },
  listLinks: {
    method: 'get',
    path: '/api/jobs/:jobId/links',
    summary: 'The links of a job',
    access: everyone,
    params: inJob,
    response: z.array(link),
  },
  addLinks: {
    method: 'post',
    path: '/api/jobs/:jobId/links',
    summary: 'Add links to a job, all or none',
    access: workers,
    params: inJob,
    body: newLinks,
    response: z.array(link),
  },
  jobActivity: {
    method: 'get',
    path: '/api/jobs/:jobId/activity',
    summary: 'What happened on a job, newest first',
    access: everyone,
    params: inJob,
    response: z.array(activity),
  },
  handoverPdf: {
    method: 'get',
    path: '/api/jobs/:jobId/handover.pdf',
    summary: 'Handover sheet',
    access: everyone,
    params: inJob,
    file: 'application/pdf',
  },
  handoverCsv: {
    method: 'get',
    path: '/api/jobs/:jobId/handover.csv',
    summary: 'Handover table',
    access: everyone,
    params: inJob,
    file: 'text/csv',
  },
  handoverJson: {
    method: 'get',
    path: '/api/jobs/:jobId/handover.json',
    summary: 'Handover record, complete',
    access: everyone,
    params: inJob,
    file: 'application/json',
  },

  getLink: {
    method: 'get',
    path: '/api/links/:linkId',
    summary: 'One link with its whole record',
    access: everyone,
    params: onLink,
    response: linkDetail,
  },
  changeLink: {
    method: 'patch',
    path: '/api/links/:linkId',
    summary: 'Change a link’s plan',
    access: workers,
    params: onLink,
    body: linkChange,
    response: link,
  },
  addTermination: {
    method: 'post',
    path: '/api/links/:linkId/terminations',
    summary: 'Record a try at an end',
    access: workers,
    params: onLink,
    body: newTermination,
    response: linkDetail,
  },
  cardPdf: {
    method: 'get',
    path: '/api/links/:linkId/cards/:side.pdf',
    summary: 'The work card of an end on one page, with a gauge at true scale',
    access: everyone,
    params: z.object({ linkId: uuid, side: linkEnd }),
    file: 'application/pdf',
  },
  attemptCardPdf: {
    method: 'get',
    path: '/api/links/:linkId/terminations/:attemptId/card.pdf',
    summary: 'The card that a recorded try was made by, from the sheets of that day',
    access: everyone,
    params: z.object({ linkId: uuid, attemptId: uuid }),
    file: 'application/pdf',
  },
  addCableWork: {
    method: 'post',
    path: '/api/links/:linkId/cable-work',
    summary: 'Record work on the cable',
    access: workers,
    params: onLink,
    body: newCableWork,
    response: linkDetail,
  },
  addTest: {
    method: 'post',
    path: '/api/links/:linkId/tests',
    summary: 'Record a reading',
    access: workers,
    params: onLink,
    body: newTest,
    response: linkDetail,
  },
  listTraces: {
    method: 'get',
    path: '/api/links/:linkId/traces',
    summary: 'Reflectometer traces of a link, newest first',
    access: everyone,
    params: onLink,
    response: z.array(traceRecord),
  },
  addTrace: {
    method: 'post',
    path: '/api/links/:linkId/traces',
    summary: 'Keep a reflectometer trace',
    access: workers,
    params: onLink,
    body: newTrace,
    response: z.array(traceRecord),
  },
  handOver: {
    method: 'post',
    path: '/api/links/:linkId/handover',
    summary: 'Hand a proved link over',
    access: workers,
    params: onLink,
    body: newHandover,
    response: linkDetail,
  },

  listAdapters: {
    method: 'get',
    path: '/api/adapters',
    summary: 'Adapters, with what is wrong with each and how many were built and proved',
    access: everyone,
    response: z.array(adapterSummary),
  },
  readAdapter: {
    method: 'get',
    path: '/api/adapters/:adapterId',
    summary: 'An adapter with its versions, builds and photos',
    access: everyone,
    params: ofAdapter,
    response: adapterRecord,
  },
  readAdapterVersion: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version',
    summary: 'An adapter as it was',
    access: everyone,
    params: ofVersion,
    response: adapterVersion,
  },
  keepAdapter: {
    method: 'post',
    path: '/api/adapters',
    summary: 'Keep an adapter: a new one, or the next version',
    access: workers,
    body: newAdapterVersion,
    response: adapterRecord,
  },
  addBuild: {
    method: 'post',
    path: '/api/adapters/:adapterId/builds',
    summary: 'Keep what proving a built lead gave',
    access: workers,
    params: ofAdapter,
    body: newBuild,
    response: adapterRecord,
  },
  addAdapterPhoto: {
    method: 'post',
    path: '/api/adapters/:adapterId/photos',
    summary: 'Keep a photo of how a connector lies',
    access: workers,
    params: ofAdapter,
    body: newAdapterPhoto,
    response: adapterRecord,
  },
  adapterPhoto: {
    method: 'get',
    path: '/api/adapters/:adapterId/photos/:photoId',
    summary: 'A photo of how a connector lies',
    access: everyone,
    params: ofAdapter.extend({ photoId: uuid }),
    file: 'image/jpeg',
  },
  adapterSheet: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/sheet-:scale.pdf',
    summary: 'The build sheet: joining table, both faces of each connector at a scale, rules, proof',
    access: everyone,
    params: ofVersion.extend({ scale: z.enum(['1', '2', '3', '4']) }),
    file: 'application/pdf',
  },
  adapterDrawing: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/lead.svg',
    summary: 'The lead as a drawing',
    access: everyone,
    params: ofVersion,
    file: 'image/svg+xml',
  },
  adapterTable: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/joints.csv',
    summary: 'The joining table',
    access: everyone,
    params: ofVersion,
    file: 'text/csv',
  },
  adapterFile: {
    method: 'get',
    path: '/api/adapters/:adapterId/versions/:version/adapter.json',
    summary: 'The adapter as a file, to be read by anyone’s',
    access: everyone,
    params: ofVersion,
    file: 'application/json',
  },

  listInstruments: {
    method: 'get',
    path: '/api/instruments',
    summary: 'Instruments within reach',
    access: everyone,
    response: z.array(instrument),
  },
  takeReading: {
    method: 'post',
    path: '/api/instruments/readings',
    summary: 'Take a reading from an instrument',
    access: workers,
    body: takeReading,
    response: takenReading,
  },
  benchScope: {
    method: 'get',
    path: '/api/instruments/scope',
    summary: 'The bench oscilloscope with its pulser; null where none is set up',
    access: everyone,
    response: benchScope.nullable(),
  },
  takeTrace: {
    method: 'post',
    path: '/api/instruments/traces',
    summary: 'Take one trace with the bench oscilloscope; nothing is kept',
    access: workers,
    body: takeTrace,
    response: takenTrace,
  },
  checkCord: {
    method: 'post',
    path: '/api/instruments/cord',
    summary: 'Have the instrument read a cord known to be good',
    access: workers,
    body: checkCord,
    response: cordChecked,
  },
  addTests: {
    method: 'post',
    path: '/api/jobs/:jobId/tests',
    summary: 'Record readings of several links: all, or none',
    access: workers,
    params: inJob,
    body: newTests,
    response: testsKept,
  },
  currentRound: {
    method: 'get',
    path: '/api/jobs/:jobId/round-of-tests',
    summary: 'The testing round that is open, wherever it was begun',
    access: everyone,
    params: inJob,
    response: testingRound.nullable(),
  },
  beginRound: {
    method: 'post',
    path: '/api/jobs/:jobId/round-of-tests',
    summary: 'Begin a testing round; the one before is closed',
    access: workers,
    params: inJob,
    body: newRound,
    response: testingRound,
  },
  closeRound: {
    method: 'delete',
    path: '/api/jobs/:jobId/round-of-tests',
    summary: 'Close the testing round',
    access: workers,
    params: inJob,
    response: z.object({ closed: z.literal(true) }),
  },
  jobFigures: {
    method: 'get',
    path: '/api/jobs/:jobId/figures',
    summary: 'First-pass rate and faults of a job, and of the crew',
    access: everyone,
    params: inJob,
    response: jobFigures,
  },
  jobPatterns: {
    method: 'get',
    path: '/api/jobs/:jobId/patterns',
    summary: 'What several links have wrong in common',
    access: everyone,
    params: inJob,
    response: jobPatterns,
  },
  beginPractice: {
    method: 'post',
    path: '/api/practice',
    summary: 'Have the stand-in break a practice link',
    access: workers,
    body: practiceBreak,
    response: practiceStarted,
  },
  readPractice: {
    method: 'post',
    path: '/api/practice/:practiceId/readings',
    summary: 'Read a practice link',
    access: workers,
    params: practiceId,
    body: practiceRead,
    response: takenReading,
  },
  revealPractice: {
    method: 'get',
    path: '/api/practice/:practiceId',
    summary: 'What the practice link really has',
    access: workers,
    params: practiceId,
    response: practiceRevealed,
  },
} as const satisfies Record<string, Endpoint>;

export type Endpoints = typeof endpoints;
export type EndpointId = keyof Endpoints;
/** What a caller sends: the schema's input. */
export type BodyOf<K extends EndpointId> = Endpoints[K] extends { body: infer S extends z.ZodType }
  ? z.input<S>
  : undefined;
/** What a handler gets: the schema's output. */
export type ParsedBodyOf<K extends EndpointId> = Endpoints[K] extends { body: infer S extends z.ZodType }
  ? z.output<S>
  : undefined;
export type ParamsOf<K extends EndpointId> = Endpoints[K] extends { params: infer S extends z.ZodType }
  ? z.output<S>
  : Record<string, never>;
export type AnswerOf<K extends EndpointId> = Endpoints[K] extends { response: infer S extends z.ZodType }
  ? z.output<S>
  : never;
