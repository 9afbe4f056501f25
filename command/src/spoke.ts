import { ADAPTER_HELP, adapterCommand } from './adapter.js';
import type { LinearSolver } from '@near-spoke/core';
import { CARD_HELP, cardCommand, ORDER_HELP, orderCommand } from './card.js';
import { CUT_HELP, cutCommand } from './cut.js';
import { DIAGNOSE_HELP, diagnoseCommand } from './diagnose.js';
import { IDENTIFY_HELP, identifyCommand } from './identify.js';
import { LAUNCH_HELP, launchCommand } from './launch.js';
import { LOCATE_HELP, locateCommand } from './locate.js';
import { LOOP_HELP, loopCommand } from './loop.js';
import { OBSERVE_HELP, observeCommand } from './observe.js';
import { BadInput, NO_TRACE_FILES, type Outcome, type TraceFiles } from './outcome.js';
import { PLAN_HELP, planCommand } from './plan.js';
import { POWER_HELP, powerCommand } from './power.js';
import { SIMULATE_HELP, simulateCommand } from './simulate.js';
import { TRACE_HELP, traceCommand } from './trace.js';
import { VERIFY_REPORT_HELP, verifyReportCommand } from './verify-report.js';
import { VELOCITY_HELP, velocityCommand } from './velocity.js';

/** Reads a file, or standard input for "-"; given from outside so that this stays testable. */
export type ReadText = (path: string) => string;

interface Command {
  about: string;
  help: string;
  run: (args: readonly string[], readText: ReadText, files: TraceFiles, solve?: LinearSolver) => Outcome;
}

const COMMANDS: Readonly<Record<string, Command>> = {
  diagnose: { about: 'judge a link by its readings', help: DIAGNOSE_HELP, run: diagnoseCommand },
  observe: { about: 'what instruments would read on a link', help: OBSERVE_HELP, run: observeCommand },
  card: { about: 'the work card of one cable end', help: CARD_HELP, run: cardCommand },
  order: { about: 'what can still be done with a half-done end', help: ORDER_HELP, run: orderCommand },
  identify: {
    about: 'tell unmarked conductors apart with the fewest walks',
    help: IDENTIFY_HELP,
    run: identifyCommand,
  },
  trace: {
    about: 'read a reflectometer trace: what reflects, and where',
    help: TRACE_HELP,
    run: (args, _, files) => traceCommand(args, files),
  },
  locate: {
    about: 'where a fault is, by times off a screen or a meter’s figures',
    help: LOCATE_HELP,
    run: locateCommand,
  },
  velocity: {
    about: 'velocity factor from pieces of known length',
    help: VELOCITY_HELP,
    run: (args, _, files) => velocityCommand(args, files),
  },
  launch: {
    about: 'how to set generator and oscilloscope for a cable',
    help: LAUNCH_HELP,
    run: launchCommand,
  },
  loop: { about: 'what a supervised loop must read in each state', help: LOOP_HELP, run: loopCommand },
  adapter: { about: 'work up an adapter: joins, rules and proof', help: ADAPTER_HELP, run: adapterCommand },
  plan: {
    about: 'whether the links of a job will carry what they are to',
    help: PLAN_HELP,
    run: planCommand,
  },
  power: { about: 'what a link feeds over its data pairs', help: POWER_HELP, run: powerCommand },
  cut: {
    about: 'which pieces to cut from which box, and what to buy',
    help: CUT_HELP,
    run: (args, readText, _, solve) => cutCommand(args, readText, solve),
  },
  'verify-report': {
    about: 'whether a report is as it was made, and what changed since',
    help: VERIFY_REPORT_HELP,
    run: (args, _, files) => verifyReportCommand(args, files),
  },
  simulate: { about: 'the trace that a line would draw', help: SIMULATE_HELP, run: simulateCommand },
};

const HELP = `spoke COMMAND

${Object.entries(COMMANDS)
  .map(([name, { about }]) => `  ${name.padEnd(14)} ${about}`)
  .join('\n')}

spoke COMMAND --help tells more.
`;

/**
 * Runs the command line. Never throws for bad input: that is exit status 2 with a sentence.
 *
 * @param solve a linear solver, for what asks for one
 */
export function spoke(
  args: readonly string[],
  readText: ReadText,
  files: TraceFiles = NO_TRACE_FILES,
  solve?: LinearSolver,
): Outcome {
  const [name, ...rest] = args;
  if (name === undefined || name === '--help')
    return { status: name ? 0 : 2, out: name ? HELP : '', err: name ? '' : HELP };
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) return bad(`There is no command ${name}.\n${HELP}`);
  if (rest.includes('--help')) return { status: 0, out: command.help, err: '' };
  try {
    return command.run(rest, readText, files, solve);
  } catch (error) {
    if (error instanceof BadInput) return bad(`${error.message}\n`);
    throw error;
  }
}

const bad = (err: string): Outcome => ({ status: 2, out: '', err });
