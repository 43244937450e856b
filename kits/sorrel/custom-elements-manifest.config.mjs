import { readFileSync } from 'node:fs'

/** Carries the JSDoc tag @required into the manifest, which has no field of its own for it. */
const required = {
  name: 'required',
  analyzePhase({ ts, node, moduleDoc }) {
    if (!ts.isClassDeclaration(node)) return
    for (const member of node.members) {
      if (!ts.getJSDocTags(member).some(t => t.tagName.text === 'required')) continue
      const declared = moduleDoc.declarations
        ?.find(d => d.name === node.name?.getText())
        ?.members?.find(m => m.name === member.name.getText())
      if (declared) declared.required = true
    }
  },
}
/** Lists the design tokens that a component's styles speak of, its own and those of
 * the style sheets it shares, as the manifest's CSS custom properties. */
const variables = text => [...text.matchAll(/var\((--sorrel-[a-z0-9-]+)/g)].map(m => m[1])
const sheets = new Map([['shared', variables(readFileSync('src/base.ts', 'utf8'))]])
const tokens = {
  name: 'tokens',
  collectPhase({ ts, node }) {
    if (
      ts.isVariableDeclaration(node) &&
      node.initializer &&
      ts.isTaggedTemplateExpression(node.initializer)
    )
      sheets.set(node.name.getText(), variables(node.initializer.getText()))
  },
  analyzePhase({ ts, node, moduleDoc }) {
    if (!ts.isClassDeclaration(node)) return
    const declared = moduleDoc.declarations?.find(d => d.name === node.name?.getText())
    const styles = node.members.find(m => m.name?.getText() === 'styles')?.initializer
    if (!declared || !styles) return
    const shared = ts.isArrayLiteralExpression(styles)
      ? styles.elements.filter(ts.isIdentifier).flatMap(e => sheets.get(e.getText()) ?? [])
      : []
    const all = [...new Set([...shared, ...variables(node.getText())])].sort()
    declared.cssProperties = all.map(name => ({ name }))
    // What a component draws in itself: its look depends on theirs.
    const inside = [
      ...new Set([...node.getText().matchAll(/<(sorrel-[a-z0-9-]+)/g)].map(m => m[1])),
    ]
      .filter(tag => tag !== declared.tagName)
      .sort()
    if (inside.length) declared.inside = inside
  },
}
export default {
  globs: ['src/components/*.ts'],
  litelement: true,
  outdir: '.',
  plugins: [required, tokens],
}
