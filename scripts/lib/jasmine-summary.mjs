import { writeFileSync } from 'node:fs';

/** Prints failures as they come and, at the end, writes the counts where JASMINE_SUMMARY says. */
export default class Summary {
  #passed = 0;
  #failures = [];

  specDone({ status, fullName, failedExpectations }) {
    if (status === 'passed') this.#passed += 1;
    if (status !== 'failed') return;
    this.#failures.push(fullName);
    console.error(`\nFAILED ${fullName}`);
    for (const { message, stack } of failedExpectations) console.error(`  ${message}\n${stack ?? ''}`);
  }

  suiteDone(result) {
    this.#outside(result);
  }

  jasmineDone({ overallStatus, incompleteReason, order, ...result }) {
    this.#outside(result);
    if (overallStatus === 'incomplete') this.#failures.push(incompleteReason ?? 'incomplete');
    const counts = { passed: this.#passed, failed: this.#failures.length, failures: this.#failures };
    if (process.env.JASMINE_SUMMARY) writeFileSync(process.env.JASMINE_SUMMARY, JSON.stringify(counts));
    console.log(`${counts.passed} specs passed, ${counts.failed} failed (seed ${order?.seed})`);
  }

  /** Failures of beforeAll and afterAll belong to no spec, but they are failures. */
  #outside({ failedExpectations = [], fullName = 'outside any spec' }) {
    for (const { message, stack } of failedExpectations) {
      this.#failures.push(fullName);
      console.error(`\nFAILED ${fullName}\n  ${message}\n${stack ?? ''}`);
    }
  }
}
