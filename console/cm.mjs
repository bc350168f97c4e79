import { parse } from '@vue/compiler-sfc'
import { baseParse } from '@vue/compiler-dom'
import { parseExpression } from '@babel/parser'
import fs from 'node:fs'
import path from 'node:path'
const files = process.argv.slice(2)
const out = []
const used = new Map() // key -> text
const snake = (s) => s.replace(/([a-z0-9])([A-Z])/g, '$1_$2').toLowerCase()
function slug(text) {
  const words = text.replace(/\{\w+\}/g, ' ').toLowerCase().replace(/[’']/g, '').match(/[a-z0-9]+/g) ?? ['text']
  return words.slice(0, 5).join('_').slice(0, 36).replace(/_$/, '')
}
function keyFor(prefix, text) {
  let base = `${prefix}.${slug(text)}`, key = base, n = 2
  while (used.has(key) && used.get(key) !== text) key = `${base}_${n++}`
  used.set(key, text)
  return key
}
const letters = (s) => /\p{L}{2,}|^\p{L}$/u.test(s)
const esc = (s) => s.replace(/([@|])/g, "{'$1'}")
const ATTRS = new Set(['title', 'aria-label', 'placeholder', 'label', 'empty', 'action', 'doing', 'what', 'positive-text', 'negative-text', 'data-label', 'help'])
function paramName(expr, taken) {
  const ids = expr.match(/[A-Za-z_]\w*/g) ?? ['value']
  let name = ids.filter((i) => !['value', 'length', 'inZone', 'zone', 't', 'data', 'slice', 'join', 'filter', 'toLowerCase', 'String'].includes(i)).at(-1) ?? 'value'
  name = snake(name)
  let n = name, k = 2
  while (taken[n] !== undefined && taken[n] !== expr) n = `${name}${k++}`
  return n
}
// strings inside an expression
function exprEdits(code, prefix, all) {
  let ast
  try { ast = parseExpression(code, { plugins: ['typescript'] }) } catch { return null }
  const edits = []
  const walk = (node, parent, key) => {
    if (!node || typeof node.type !== 'string') return
    if (node.type === 'CallExpression' && node.callee.name === 'many') {
      const [count, one, more] = node.arguments
      if (one?.type === 'StringLiteral') {
        const plural = more?.value ?? one.value + 's'
        const k = `count.${plural.toLowerCase().replace(/[^a-z0-9]+/g, '_')}`
        if (!used.has(k)) used.set(k, `no ${plural} | 1 ${one.value} | {n} ${plural}`)
        edits.push([node.start, node.end, `$t('${k}', ${code.slice(count.start, count.end)})`])
        return
      }
    }
    if (node.type === 'CallExpression' && ['$t', 't', 'stateName'].includes(node.callee.name)) return
    if (node.type === 'BinaryExpression' && /^[=!]==?$|in$/.test(node.operator)) return
    if (node.type === 'MemberExpression' && node.computed) { walk(node.object, node); return }
    if (node.type === 'StringLiteral' && letters(node.value) && (all || / |^[A-Z]/.test(node.value)) && !(parent?.type === 'CallExpression' ) && !(parent?.type === 'ObjectProperty')) {
      const k = keyFor(prefix, esc(node.value))
      edits.push([node.start, node.end, `$t('${k}')`])
      return
    }
    if (node.type === 'TemplateLiteral') {
      const text = node.quasis.map((q) => q.value.cooked)
      if (letters(text.join(' '))) {
        const taken = {}
        let msg = ''
        node.quasis.forEach((q, i) => {
          msg += esc(q.value.cooked)
          if (i < node.expressions.length) {
            const e = node.expressions[i]
            const raw = code.slice(e.start, e.end)
            const sub = exprEdits(raw, prefix, all)
            const val = sub ?? raw
            const name = paramName(raw, taken); taken[name] = val
            msg += `{${name}}`
          }
        })
        const params = Object.entries(taken).map(([n, v]) => (n === v ? n : `${n}: ${v}`)).join(', ')
        edits.push([node.start, node.end, `$t('${keyFor(prefix, msg)}'${params ? `, { ${params} }` : ''})`])
        return
      }
    }
    for (const k of Object.keys(node)) {
      const v = node[k]
      if (k === 'loc' || k === 'test') continue
      if (Array.isArray(v)) v.forEach((c) => walk(c, node, k))
      else if (v && typeof v === 'object' && v.type) walk(v, node, k)
    }
  }
  walk(ast, null)
  if (!edits.length) return null
  edits.sort((a, b) => b[0] - a[0])
  let res = code
  for (const [s, e, r] of edits) res = res.slice(0, s) + r + res.slice(e)
  return res
}
for (const file of files) {
  const src = fs.readFileSync(file, 'utf8')
  const { descriptor } = parse(src)
  if (!descriptor.template) continue
  const base = descriptor.template.loc.start.offset
  const tpl = descriptor.template.content
  const ast = baseParse(tpl, { parseMode: 'html', whitespace: 'preserve' })
  const comp = snake(path.basename(file, '.vue')).replace(/_(page|panel)$/, '')
  const room = path.basename(path.dirname(file))
  const prefix = `${room}.${comp}`
  const edits = []
  const visit = (node) => {
    if (node.type === 1) {
      for (const p of node.props) {
        if (p.type === 6 && p.value && ATTRS.has(p.name) && letters(p.value.content) && !['id','name'].includes(p.name)) {
          edits.push([p.loc.start.offset, p.loc.end.offset, `:${p.name}="$t('${keyFor(prefix, esc(p.value.content))}')"`])
        } else if (p.type === 7 && p.name === 'bind' && p.exp && p.arg?.content && (ATTRS.has(p.arg.content))) {
          const r = exprEdits(p.exp.content, prefix, true)
          if (r) edits.push([p.exp.loc.start.offset, p.exp.loc.end.offset, r])
        }
      }
    }
    const kids = node.children ?? []
    let run = []
    const flush = () => {
      if (!run.length) return
      const group = run; run = []
      const text = group.filter((k) => k.type === 2).map((k) => k.content).join('')
      const first = group[0].loc.start.offset, last = group.at(-1).loc.end.offset
      if (!letters(text)) {
        for (const k of group) if (k.type === 5) {
          const r = exprEdits(k.content.content, prefix, true)
          if (r) edits.push([k.content.loc.start.offset, k.content.loc.end.offset, r])
        }
        return
      }
      const taken = {}
      let msg = ''
      for (const k of group) {
        if (k.type === 2) msg += esc(k.content.replace(/\s+/g, ' '))
        else {
          const raw = k.content.content.trim()
          const val = exprEdits(raw, prefix, true) ?? raw
          const name = paramName(raw, taken); taken[name] = val
          msg += `{${name}}`
        }
      }
      const lead = /^\s*/.exec(msg)[0], trail = /\s*$/.exec(msg)[0]
      const raw = tpl.slice(first, last)
      const l = group[0].type === 2 ? /^\s*/.exec(raw)[0] : '', t = group.at(-1).type === 2 ? /\s*$/.exec(raw)[0] : ''
      const body = msg.trim()
      const params = Object.entries(taken).map(([n, v]) => (n === v ? n : `${n}: ${v}`)).join(', ')
      edits.push([first, last, `${l}{{ $t('${keyFor(prefix, body)}'${params ? `, { ${params} }` : ''}) }}${t}`])
      if (kids.some((k) => k.type === 1) ) out.push(`# mixed ${file}: ${body}`)
    }
    for (const k of kids) {
      if (k.type === 2 || k.type === 5) run.push(k)
      else { flush(); visit(k) }
    }
    flush()
  }
  visit(ast)
  edits.sort((a, b) => b[0] - a[0])
  let res = tpl
  for (const [s, e, r] of edits) res = res.slice(0, s) + r + res.slice(e)
  fs.writeFileSync(file, src.slice(0, base) + res + src.slice(base + tpl.length))
}
fs.writeFileSync('/tmp/w/cm/keys.txt', [...used].map(([k, v]) => `${k} || ${v}`).join('\n') + '\n')
fs.writeFileSync('/tmp/w/cm/mixed.txt', out.join('\n') + '\n')
console.log(used.size, 'keys')
