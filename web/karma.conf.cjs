/** Karma in Debian's Chromium, headless. Results go to the file named by KARMA_SUMMARY for the test script's total. */
const { writeFileSync } = require('node:fs');

process.env.CHROME_BIN ??= '/usr/bin/chromium';

function SummaryReporter() {
  const failures = [];
  const counts = { passed: 0, failed: 0 };
  this.adapters = [];
  this.onSpecComplete = (_browser, result) => {
    if (result.skipped) return;
    counts[result.success ? 'passed' : 'failed'] += 1;
    if (!result.success) failures.push([...result.suite, result.description].join(' '), ...result.log);
  };
  this.onRunComplete = (_browsers, results) => {
    if (results.error && counts.failed === 0) counts.failed = 1;
    if (process.env.KARMA_SUMMARY)
      writeFileSync(process.env.KARMA_SUMMARY, JSON.stringify({ ...counts, failures }));
  };
}

module.exports = (config) => {
  config.set({
    basePath: __dirname,
    frameworks: ['jasmine'],
    plugins: [
      require('karma-jasmine'),
      require('karma-chrome-launcher'),
      { 'reporter:summary': ['type', SummaryReporter] },
    ],
    reporters: ['dots', 'summary'],
    browsers: ['Quiet'],
    customLaunchers: {
      Quiet: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    // A busy machine is no failure: what waits for a worker may take its time, and so may a page that is busy itself.
    client: { jasmine: { timeoutInterval: 300_000 } },
    captureTimeout: 300_000,
    pingTimeout: 300_000,
    browserNoActivityTimeout: 600_000,
    browserDisconnectTimeout: 60_000,
    browserDisconnectTolerance: 2,
    restartOnFileChange: false,
  });
};
