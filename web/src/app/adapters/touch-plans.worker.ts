import { gangsPlan, inOrderSeconds, probesPlan } from '@near-spoke/core';
import type { TouchPlans, TouchQuestion } from './touch-plans';

addEventListener('message', ({ data: { nets, ends } }: MessageEvent<TouchQuestion>) => {
  const plans: TouchPlans = {
    probes: probesPlan(nets, ends),
    gangs: gangsPlan(nets, ends),
    inOrderS: inOrderSeconds(nets, ends),
  };
  postMessage(plans);
});
