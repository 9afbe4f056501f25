import { crewPractice, newDrillAnswer, ownPractice } from '../drills.js';
import { everyone, leads, type Endpoint } from './endpoint.js';

/** Practice. */
export const drillsEndpoints = {
  ownPractice: {
    method: 'get',
    path: '/api/practice-room',
    summary: 'Own answers to drills, and what was found wrong at work lately',
    access: everyone,
    response: ownPractice,
  },
  answerDrill: {
    method: 'post',
    path: '/api/practice-room/answers',
    summary: 'Keep an answer to a drill',
    access: everyone,
    body: newDrillAnswer,
    response: ownPractice,
  },
  crewPractice: {
    method: 'get',
    path: '/api/practice-room/crew',
    summary: 'What the crew needs: answers to drills by kind, of all together',
    access: leads,
    response: crewPractice,
  },
} as const satisfies Record<string, Endpoint>;
