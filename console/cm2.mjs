import { parse } from '@vue/compiler-sfc'
import { parse as babel } from '@babel/parser'
import fs from 'node:fs'
import path from 'node:path'
const used = new Map(fs.readFileSync('/tmp/w/cm/keys.txt', 'utf8').trim().split('\n').map((l) => l.split(' || ')))
const snake = (s) => s.replace(/([a-z0-9])([A-Z])/g, '$1_$2').toLowerCase()
const slug = (text) => (text.replace(/\{\w+\}/g, ' ').toLowerCase().replace(/[’']/g, '').match(/[a-z0-9]+/g) ?? ['text']).slice(0, 5).join('_').slice(0, 36).replace(/_$/, '')
function keyFor(prefix, text) { let base = `${prefix}.${slug(text)}`, key = base, n = 2; while (used.has(key) && used.get(key) !== text) key = `${base}_${n++}`; used.set(key, text); return key }
const esc = (s) => s.replace(/([@|])/g, "{'$1'}")
const SKIP = new Set(['t', 'te', 'stateName', 'emit', 'useStorage', 'includes', 'startsWith', 'endsWith', 'split', 'replaceAll', 'replace', 'getElementById', 'querySelector', 'addEventListener', 'GET', 'POST', 'PATCH', 'DELETE', 'PUT', 'push', 'matchMedia', 'toRef', 'defineEmits', 'fill', 'setAttribute', 'getContext', 'has', 'get', 'set', 'append', 'createElement', 'getPropertyValue', 'RegExp', 'Error', 'invalidateQueries', 'window', 'open'])
const NOT = /prefers-|Inter|SameSite|^Arrow|^Home$|^End$|^read courses again$|^\{unit\}/
const human = (s, strict) => !NOT.test(s) && /\p{L}{2,}/u.test(s) && (/\p{L}.* .*\p{L}/u.test(s) || (!strict && /^[A-Z][a-z]+/.test(s)))
const log = []
for (const file of process.argv.slice(2)) {
  const src = fs.readFileSync(file, 'utf8')
  let code = src, base = 0
  if (file.endsWith('.vue')) { const d = parse(src).descriptor; const s = d.scriptSetup ?? d.script; if (!s) continue; code = s.content; base = s.loc.start.offset }
  const ast = babel(code, { sourceType: 'module', plugins: ['typescript'] })
  const comp = snake(path.basename(file).replace(/\.(vue|ts)$/, '')).replace(/_(page|panel)$/, '')
  const prefix = `${path.basename(path.dirname(file))}.${comp}`
  const make = (list) => {}
  const collect = (node, edits) => {
    const walk = (n, parent, slot) => {
      if (!n || typeof n.type !== 'string') return
      if (/^(Import|Export(All|Named)Decl.*Source|TSLiteral|TSType|TSInterface|TSUnion)/.test(n.type)) return
      if (n.type.startsWith('TS') && !['TSAsExpression', 'TSNonNullExpression', 'TSSatisfiesExpression'].includes(n.type)) return
      if (n.type === 'CallExpression' || n.type === 'NewExpression') {
        const c = n.callee; const name = c.name ?? c.property?.name ?? ''
        if (name === 'many') {
          const [count, one, more] = n.arguments
          if (one?.type === 'StringLiteral') {
            const plural = more?.value ?? one.value + 's'
            const k = `count.${plural.toLowerCase().replace(/[^a-z0-9]+/g, '_')}`
            if (!used.has(k)) used.set(k, `no ${plural} | 1 ${one.value} | {n} ${plural}`)
            edits.push([n.start, n.end, `t('${k}', ${sub(count)})`]); return
          }
        }
        if (SKIP.has(name)) { n.arguments.forEach((a) => { if (a.type !== 'StringLiteral' && a.type !== 'TemplateLiteral') walk(a, n, 'arg') }); walk(c, n, 'callee'); return }
      }
      if (n.type === 'BinaryExpression' && /^([=!]==?|in)$/.test(n.operator)) return
      if (n.type === 'ObjectProperty') { if (n.computed) walk(n.key, n); if (['queryKey', 'name', 'code', 'mutationKey'].includes(n.key.name) ) { if (n.value.type === 'StringLiteral') return }; walk(n.value, n, 'value'); return }
      if (n.type === 'SwitchCase') { n.consequent.forEach((x) => walk(x, n)); return }
      if (n.type === 'StringLiteral') {
        if (human(n.value, !['ObjectProperty', 'ArrayExpression', 'ConditionalExpression', 'LogicalExpression', 'AssignmentExpression', 'ReturnStatement', 'ArrowFunctionExpression'].includes(parent?.type))) {
          const k = keyFor(prefix, esc(n.value)); edits.push([n.start, n.end, `t('${k}')`]); log.push(`${file}: ${n.value}`)
        }
        return
      }
      if (n.type === 'TemplateLiteral') {
        const text = n.quasis.map((q) => q.value.cooked).join('§')
        if (/\p{L}{2,}/u.test(text) && !/^[\/#.]|--|\/api\/|px|^M|rgb/.test(text) && (/ /.test(text))) {
          const taken = {}; let msg = ''
          n.quasis.forEach((q, i) => {
            msg += esc(q.value.cooked)
            if (i < n.expressions.length) {
              const e = n.expressions[i]; const val = sub(e); const raw = code.slice(e.start, e.end)
              const ids = raw.match(/[A-Za-z_]\w*/g) ?? ['value']
              let nm = snake(ids.filter((x) => !['value', 'length', 'inZone', 'zone', 't', 'data', 'props', 'join'].includes(x)).at(-1) ?? 'value'); let m = nm, kk = 2
              while (taken[m] !== undefined && taken[m] !== val) m = `${nm}${kk++}`
              taken[m] = val; msg += `{${m}}`
            }
          })
          const params = Object.entries(taken).map(([a, b]) => (a === b ? a : `${a}: ${b}`)).join(', ')
          edits.push([n.start, n.end, `t('${keyFor(prefix, msg)}'${params ? `, { ${params} }` : ''})`]); log.push(`${file}: \`${msg}\``)
          return
        }
      }
      for (const k of Object.keys(n)) {
        if (['loc', 'typeAnnotation', 'typeParameters', 'returnType', 'leadingComments', 'trailingComments', 'innerComments'].includes(k)) continue
        const v = n[k]
        if (Array.isArray(v)) v.forEach((c) => c && c.type && walk(c, n, k))
        else if (v && typeof v === 'object' && v.type) walk(v, n, k)
      }
    }
    walk(node, null)
  }
  const sub = (n) => { const edits = []; collect(n, edits); let r = code.slice(n.start, n.end); edits.sort((a, b) => b[0] - a[0]).forEach(([s, e, x]) => { r = r.slice(0, s - n.start) + x + r.slice(e - n.start) }); return r }
  const edits = []
  collect(ast.program, edits)
  if (!edits.length) continue
  let res = code
  edits.sort((a, b) => b[0] - a[0]).forEach(([s, e, x]) => { res = res.slice(0, s) + x + res.slice(e) })
  if (!/import \{[^}]*\bt\b[^}]*\} from '@\/words'/.test(res)) {
    const at = res.lastIndexOf('\nimport ')
    const end = at < 0 ? 0 : res.indexOf('\n', res.indexOf(" from '", at)) + 1
    res = res.slice(0, end) + "import { t } from '@/words'\n" + res.slice(end)
  }
  if (!process.env.DRY) fs.writeFileSync(file, src.slice(0, base) + res + src.slice(base + code.length))
}
fs.writeFileSync('/tmp/w/cm/script.txt', log.join('\n') + '\n')
if (!process.env.DRY) fs.writeFileSync('/tmp/w/cm/keys.txt', [...used].map(([k, v]) => `${k} || ${v}`).join('\n') + '\n')
console.log(log.length, used.size)
