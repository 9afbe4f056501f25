import { apartPlan, gangsPlan, inOrderSeconds, probesPlan } from '@near-spoke/core';
import type { TouchPlans, TouchQuestion } from './touch-plans';

addEventListener('message', ({ data: { nets, ends, hands, meterAt } }: MessageEvent<TouchQuestion>) => {
  const plans: TouchPlans = {
    probes: probesPlan(nets, ends, hands),
    gangs: gangsPlan(nets, ends, hands),
    apart: apartPlan(nets, ends, [meterAt], { hands }),
    inOrderS: inOrderSeconds(nets, ends, hands),
  };
  postMessage(plans);
});
