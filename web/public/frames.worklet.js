/** Hands the microphone's samples on, two hundredths of a second at a time. Nothing of them is kept or sent. */
const SAMPLES = 960;

class Frames extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(SAMPLES);
    this.filled = 0;
    this.from = 0;
  }

  process([input]) {
    const [samples] = input;
    if (!samples) return true;
    for (const sample of samples) {
      if (this.filled === 0) this.from = currentFrame;
      this.block[this.filled++] = sample;
      if (this.filled < SAMPLES) continue;
      this.port.postMessage({ from: this.from, samples: this.block }, [this.block.buffer]);
      this.block = new Float32Array(SAMPLES);
      this.filled = 0;
    }
    return true;
  }
}

registerProcessor('near-spoke-frames', Frames);
