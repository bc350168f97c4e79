import { parse } from '@vue/compiler-sfc'
import { baseParse } from '@vue/compiler-dom'
import fs from 'node:fs'
for (const file of process.argv.slice(2)) {
  let src = fs.readFileSync(file, 'utf8')
  const { descriptor } = parse(src)
  if (!descriptor.template) continue
  const base = descriptor.template.loc.start.offset
  const tpl = descriptor.template.content
  const ast = baseParse(tpl, { parseMode: 'html', whitespace: 'preserve' })
  const edits = []; const need = new Set(); let labels = false
  const cut = (n) => tpl.slice(n.loc.start.offset, n.loc.end.offset)
  const attr = (n, name) => n.props.find((p) => p.type === 6 && p.name === name)
  const dir = (n, name, arg) => n.props.find((p) => p.type === 7 && p.name === name && (arg === undefined || p.arg?.content === arg))
  const textOf = (n) => { // expression of an element's words
    const kids = (n.children ?? []).filter((k) => !(k.type === 2 && !k.content.trim()))
    const inner = kids.flatMap((k) => k.type === 1 && ['span', 'template'].includes(k.tag) ? k.children.filter((c) => !(c.type === 2 && !c.content.trim())) : [k])
    const parts = inner.filter((k) => k.type === 5 || k.type === 2).map((k) => k.type === 5 ? k.content.content.trim() : JSON.stringify(k.content.trim()).replace(/"/g, "'"))
    return parts
  }
  const visit = (node, label) => {
    if (node.type === 1) {
      if (node.tag === 'select') {
        const opts = []
        for (const o of node.children.filter((k) => k.type === 1)) {
          const v = attr(o, 'value'), bv = dir(o, 'bind', 'value'), f = dir(o, 'for'), dis = dir(o, 'bind', 'disabled'), cond = dir(o, 'if')
          const words = textOf(o)
          const lab = words.length === 1 ? words[0] : '`' + words.map((w) => w.startsWith("'") ? w.slice(1, -1) : '${' + w + '}').join('') + '`'
          const val = v ? `'${v.value?.content ?? ''}'` : bv ? bv.exp.content : lab
          const one = `{ value: ${val}, label: ${lab}${dis ? `, disabled: ${dis.exp.content}` : ''} }`
          if (f) { const [, a, list] = /^\s*(.+?)\s+(?:in|of)\s+(.+)$/s.exec(f.exp.content); opts.push(`...(${list}).map((${a.replace(/^\(|\)$/g, '')}) => (${one}))`) }
          else if (cond) opts.push(`...(${cond.exp.content} ? [${one}] : [])`)
          else opts.push(one)
        }
        const model = dir(node, 'model')
        const keep = node.props.filter((p) => p !== model && !(p.type === 6 && p.name === 'aria-label') && !(p.type === 7 && p.arg?.content === 'aria-label') && !(p.type === 7 && p.arg?.content === 'value') && !(p.type === 7 && p.name === 'on' && p.arg?.content === 'change') ).map((p) => cut(p))
        const al = dir(node, 'bind', 'aria-label')
        const lab = al ? al.exp.content : label ? (textOf(label)[0] ?? "''") : "''"
        const bound = dir(node, 'bind', 'value'), change = dir(node, 'on', 'change')
        const m = model ? `v-model:value="${model.exp.content}"` : `:value="${bound?.exp.content}" @chosen="${change?.exp.content}"`
        edits.push([node.loc.start.offset, node.loc.end.offset, `<ChooseOne ${m} :label="${lab}" ${keep.join(' ')} :options="[${opts.join(', ')}]" />`])
        need.add('ChooseOne')
        return
      }
      if (node.tag === 'label') {
        const kids = node.children.filter((k) => !(k.type === 2 && !k.content.trim()))
        const input = kids.find((k) => k.type === 1 && k.tag === 'input' && attr(k, 'type')?.value?.content === 'checkbox')
        if (input && kids.filter((k) => k.type === 1 && k.tag === 'input').length === 1 && kids[0] === input) {
          const model = dir(input, 'model'), bound = dir(input, 'bind', 'checked'), ch = dir(input, 'on', 'change')
          if (model) {
            const rest = input.props.filter((p) => p !== model && !(p.type === 6 && p.name === 'type')).map(cut)
            const lp = node.props.map(cut)
            const m = `v-model:checked="${model.exp.content}"`
            const inner = tpl.slice(input.loc.end.offset, node.loc.end.offset - '</label>'.length).trim()
            edits.push([node.loc.start.offset, node.loc.end.offset, `<NCheckbox ${[m, ...rest, ...lp].join(' ')}>${inner}</NCheckbox>`]); need.add('NCheckbox'); return
          }
        }
        const hasSelect = (n) => n.type === 1 && (n.tag === 'select' || n.children.some(hasSelect))
        if (hasSelect(node)) {
          labels = true
          const open = /^<label\b([^>]*)>/s.exec(cut(node))
          const cls = attr(node, 'class')
          let a = open[1]
          a = cls ? a.replace(/\bclass="/, 'class="field ') : a + ' class="field"'
          edits.push([node.loc.start.offset, node.loc.start.offset + open[0].length, `<div${a}>`])
          edits.push([node.loc.end.offset - 8, node.loc.end.offset, '</div>'])
          const txt = node.children.filter((k) => k.type === 5)
          for (const k of txt) edits.push([k.loc.start.offset, k.loc.end.offset, `<span>${cut(k)}</span>`])
          node.children.forEach((k) => visit(k, node))
          return
        }
      }
      if (node.tag === 'table') {
        const len = '<table'.length
        edits.push([node.loc.start.offset, node.loc.start.offset + len, '<NTable :bordered="false"'])
        edits.push([node.loc.end.offset - '</table>'.length, node.loc.end.offset, '</NTable>']); need.add('NTable')
      }
      if (node.tag === 'details') {
        const sum = node.children.find((k) => k.type === 1 && k.tag === 'summary')
        const open = /^<details\b([^>]*)>/s.exec(cut(node))
        const words = sum ? textOf(sum) : []
        const plain = sum && sum.children.filter((k) => !(k.type === 2 && !k.content.trim())).length === 1 && sum.children.find((k) => k.type === 5)
        let a = open[1].replace(/class="sheet"/, 'sheet').replace(/class="([^"]*)\bsheet\b([^"]*)"/, 'class="$1$2" sheet')
        const expr = words[0] ?? "''"
        edits.push([node.loc.start.offset, node.loc.start.offset + open[0].length, `<MoreBelow${a} :title="${expr.replace(/"/g, "'")}">`])
        edits.push([node.loc.end.offset - '</details>'.length, node.loc.end.offset, '</MoreBelow>'])
        if (sum) {
          if (plain) edits.push([sum.loc.start.offset, sum.loc.end.offset, ''])
          else {
            const so = /^<summary\b[^>]*>/s.exec(cut(sum))
            edits.push([sum.loc.start.offset, sum.loc.start.offset + so[0].length, '<template #title>'])
            edits.push([sum.loc.end.offset - '</summary>'.length, sum.loc.end.offset, '</template>'])
            sum.children.forEach((k) => visit(k, label))
          }
        }
        need.add('MoreBelow')
        node.children.filter((k) => k !== sum).forEach((k) => visit(k, label))
        return
      }
    }
    for (const k of node.children ?? []) visit(k, node.tag === 'label' ? node : label)
  }
  visit(ast)
  if (!edits.length) continue
  edits.sort((a, b) => b[0] - a[0] || b[1] - a[1])
  let res = tpl
  for (const [s, e, r] of edits) res = res.slice(0, s) + r + res.slice(e)
  src = src.slice(0, base) + res + src.slice(base + tpl.length)
  const IMPORT = { ChooseOne: "import ChooseOne from '@/parts/ChooseOne.vue'", MoreBelow: "import MoreBelow from '@/parts/MoreBelow.vue'", NCheckbox: "import { NCheckbox } from 'naive-ui/es/checkbox'", NTable: "import { NTable } from 'naive-ui/es/table'" }
  for (const n of need) if (!src.includes(IMPORT[n])) src = src.includes('<script setup lang="ts">') ? src.replace('<script setup lang="ts">\n', `<script setup lang="ts">\n${IMPORT[n]}\n`) : `<script setup lang="ts">\n${IMPORT[n]}\n</script>\n` + src
  // styles: native selectors go, labels become fields
  src = src.replace(/<style scoped>[\s\S]*<\/style>/, (style) => {
    let s = style
    if (labels) s = s.replace(/(^|[\s,{}])label(?=[\s,.:{])/g, '$1.field')
    s = s.replace(/^(summary|details[^{]*|select[^{]*|select,\ninput[^{]*|details > summary[^{]*)\{[^}]*\}\n?/gm, '')
    return s
  })
  fs.writeFileSync(file, src)
  console.log(file.replace('src/steps/', ''), [...need].join(','))
}
