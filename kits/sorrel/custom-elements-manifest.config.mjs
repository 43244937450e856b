/** Carries the JSDoc tag @required into the manifest, which has no field of its own for it. */
const required = {
  name: 'required',
  analyzePhase({ ts, node, moduleDoc }) {
    if (!ts.isClassDeclaration(node)) return
    for (const member of node.members) {
      if (!ts.getJSDocTags(member).some(t => t.tagName.text === 'required')) continue
      const declared = moduleDoc.declarations?.find(d => d.name === node.name?.getText())?.members?.find(m => m.name === member.name.getText())
      if (declared) declared.required = true
    }
  },
}
export default { globs: ['src/components/*.ts'], litelement: true, outdir: '.', plugins: [required] }
