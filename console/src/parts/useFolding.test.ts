import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import { useFolding } from './useFolding'

interface Node {
  key: string
  children?: Node[]
}
const nodes: Node[] = [
  { key: 'a', children: [{ key: 'b' }, { key: 'c', children: [{ key: 'd' }] }] },
  { key: 'e', children: [] },
]

describe('folding a tree', () => {
  it('knows each row’s level, and that of an empty folder as a folder', () => {
    const { nodeOf, expanded } = useFolding({ nodes }, ref([]))
    expect(['a', 'b', 'c', 'd', 'e'].map((key) => nodeOf(key)?.level)).toEqual([1, 2, 2, 3, 1])
    expect(nodeOf('nothing')).toBeUndefined()
    expect(expanded.value).toEqual(['a', 'c', 'e'])
  })
  it('keeps which are shut, so that a folder that comes later is open', () => {
    const shut = ref<string[]>([])
    const { expanded, unfold } = useFolding({ nodes }, shut)
    unfold(['a', 'e'])
    expect(shut.value).toEqual(['c'])
    expect(expanded.value).toEqual(['a', 'e'])
  })
})
