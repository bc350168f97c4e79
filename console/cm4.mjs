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
  const solid = (n) => n.children.filter((k) => !(k.type === 2 && !k.content.trim()))
  const edit = (input, label) => {
    const type = attr(input, 'type')?.value?.content ?? 'text'
    const model = dir(input, 'model')
    if (!model || ['file', 'radio', 'checkbox'].includes(type) || attr(input, 'list')) return false
    const al = attr(input, 'aria-label')?.value?.content, bal = dir(input, 'bind', 'aria-label')?.exp.content
    const words = bal ?? (al ? `'${al}'` : label ? solid(label).filter((k) => k.type === 5)[0]?.content.content.trim() ?? solid(label).find((k) => k.type === 1 && k.tag === 'span')?.children.find((k) => k.type === 5)?.content.content.trim() : "''")
    const get = (n) => attr(input, n)?.value?.content
    const extra = input.props.filter((p) => (p.type === 7 && ((p.name === 'bind' && ['disabled', 'placeholder', 'key'].includes(p.arg?.content)) || ['if', 'else-if', 'else'].includes(p.name))) || (p.type === 6 && ['placeholder', 'class', 'disabled'].includes(p.name))).map(cut)
    const ip = (more = '') => `:input-props="{ 'aria-label': ${words}${more} }"`
    let out
    if (type === 'number') { out = `<NInputNumber v-model:value="${model.exp.content}" size="small" :show-button="false" ${get('min') ? `:min="${get('min')}"` : ''} ${get('max') ? `:max="${get('max')}"` : ''} ${extra.join(' ')} ${ip()} />`; need.add('NInputNumber') }
    else if (type === 'datetime-local') { out = `<NDatePicker v-model:formatted-value="${model.exp.content}" type="datetime" value-format="yyyy-MM-dd'T'HH:mm" format="MMM d, yyyy, h:mm a" size="small" ${extra.join(' ')} ${ip()} />`; need.add('NDatePicker') }
    else if (type === 'date') { out = `<NDatePicker v-model:formatted-value="${model.exp.content}" type="date" value-format="yyyy-MM-dd" format="MMM d, yyyy" size="small" ${extra.join(' ')} ${ip()} />`; need.add('NDatePicker') }
    else if (type === 'time') { out = `<NTimePicker v-model:formatted-value="${model.exp.content}" value-format="HH:mm" format="HH:mm" size="small" ${extra.join(' ')} ${ip()} />`; need.add('NTimePicker') }
    else { const im = get('inputmode'); out = `<NInput v-model:value="${model.exp.content}" size="small" ${get('maxlength') ? `:maxlength="${get('maxlength')}"` : ''} ${extra.some((e) => /placeholder/.test(e)) ? '' : 'placeholder=""'} ${extra.join(' ')} ${ip(im ? `, inputmode: '${im}'` : '')} />`; need.add('NInput') }
    edits.push([input.loc.start.offset, input.loc.end.offset, out])
    return true
  }
  const visit = (node, label) => {
    if (node.type === 1) {
      if (node.tag === 'label') {
        const kids = solid(node)
        const input = kids.find((k) => k.type === 1 && k.tag === 'input')
        const type = input && (attr(input, 'type')?.value?.content ?? 'text')
        if (input && type === 'radio' && dir(input, 'model')) {
          const c = dir(input, 'model').exp.content
          const v = attr(input, 'value') ? `'${attr(input, 'value').value?.content ?? ''}'` : dir(input, 'bind', 'value').exp.content
          const name = attr(input, 'name')?.value?.content ?? 'choice'
          const inner = tpl.slice(input.loc.end.offset, node.loc.end.offset).replace(/<\/label\s*>$/, '').trim()
          edits.push([node.loc.start.offset, node.loc.end.offset, `<NRadio :checked="${c} === ${v}" :value="${v}" name="${name}" ${node.props.map(cut).join(' ')} @update:checked="${c} = ${v}">${inner}</NRadio>`]); need.add('NRadio'); return
        }
        if (input && edit(input, node)) {
          labels = true
          const open = /^<label\b([^>]*)>/s.exec(cut(node))
          const cls = attr(node, 'class')
          const a = cls ? open[1].replace(/\bclass="/, 'class="field ') : open[1] + ' class="field"'
          edits.push([node.loc.start.offset, node.loc.start.offset + open[0].length, `<div${a}>`])
          const close = /<\/label\s*>$/.exec(cut(node))[0].length
          edits.push([node.loc.end.offset - close, node.loc.end.offset, '</div>'])
          for (const k of kids.filter((k) => k.type === 5)) edits.push([k.loc.start.offset, k.loc.end.offset, `<span>${cut(k)}</span>`])
          return
        }
      }
      if (node.tag === 'input' && edit(node, null)) return
    }
    for (const k of node.children ?? []) visit(k)
  }
  visit(ast)
  if (!edits.length) continue
  edits.sort((a, b) => b[0] - a[0] || b[1] - a[1])
  let res = tpl
  for (const [s, e, r] of edits) res = res.slice(0, s) + r + res.slice(e)
  src = src.slice(0, base) + res + src.slice(base + tpl.length)
  const IMPORT = { NInput: "import { NInput } from 'naive-ui/es/input'", NInputNumber: "import { NInputNumber } from 'naive-ui/es/input-number'", NDatePicker: "import { NDatePicker } from 'naive-ui/es/date-picker'", NTimePicker: "import { NTimePicker } from 'naive-ui/es/time-picker'", NRadio: "import { NRadio } from 'naive-ui/es/radio'" }
  for (const n of need) if (!src.includes(IMPORT[n])) src = src.replace('<script setup lang="ts">\n', `<script setup lang="ts">\n${IMPORT[n]}\n`)
  if (labels) src = src.replace(/<style scoped>[\s\S]*<\/style>/, (s) => s.replace(/(^|[\s,{}])label(?=[\s,.:{])/g, '$1.field'))
  src = src.replace(/<style scoped>[\s\S]*<\/style>/, (s) => s.replace(/^input(\[[^\]]*\])?(,\n[^{]*)? \{[^}]*\}\n/gm, ''))
  fs.writeFileSync(file, src); console.log(file, [...need].join(','))
}
