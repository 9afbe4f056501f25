p='core/src/reflectometry/explain-trace.ts'; s=open(p).read()
s=s.replace("    if (!candidate || candidate.standsOut < STANDS_OUT) return fit;","    if (process.env['DBG']) console.log('cand', candidate, misfit, JSON.stringify({s:fit.source,t:fit.tail,l:fit.loss, la: fit.launch}));\n    if (!candidate || candidate.standsOut < STANDS_OUT) return fit;")
s=s.replace("    if (next.misfit > misfit - STANDS_OUT ** 2 || !apart(next, samples)) {","    if (process.env['DBG']) console.log('next', next.misfit, apart(next, samples), next.echoes, next.loss);\n    if (next.misfit > misfit - STANDS_OUT ** 2 || !apart(next, samples)) {")
open(p,'w').write(s)
