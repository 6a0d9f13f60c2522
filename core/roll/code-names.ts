/** Things that are nobody's name and mean nothing of anyone. */
const THINGS = `
alder amber anchor anise apple apricot arbour arch arrow ash aspen aster badger bamboo banner barge barley basalt basin basket bay
beacon bean beech bell birch bittern bluebell boat bolt bramble brass brick bridge brook bronze bunting burdock button cairn candle
canoe carrot cedar chalk cherry chestnut chisel cinder citron clover cobalt comet compass copper coral cork cotton cove crane creek
crocus crystal curlew cypress dahlia damson daisy dale dawn delta dipper dolphin dove drum dune eagle egret elder elm ember falcon
fennel fern ferry fiddle fig finch fir flax flint flute fjord forge fossil fountain foxglove garnet gate ginger glacier glade gorse
granite grape gravel grove gull hammer harbour hare harp hawthorn hazel heather hedge heron hill holly honey hop horizon ibex indigo
iris island ivory ivy jade jasmine jasper juniper kestrel kettle kite lagoon lantern larch lark laurel lavender ledge lemon lichen lilac
lime linden linen lizard lodge lotus lupin lynx magpie mallow mango maple marble marigold marsh meadow melon mill mint mistle moor moss
moth myrtle nettle nutmeg oak oat olive onyx opal orchard orchid osprey otter owl paddle pansy parsley pear pebble pepper petal pewter
pier pine plover plum pond poplar poppy prism quartz quay quill quince raft raven reed ridge river robin rook rope rose rowan rudder
rush rye saffron sage sail salt sand sapphire sedge shell shore silver slate sloe snowdrop sorrel spark spruce squirrel starling stone
stork summit swallow swan sycamore teal tern thistle thrush thyme tide tile timber topaz torch tulip tundra turnip valley vetch violet
wagtail walnut water weaver wharf wheat whistle willow wool wren yarrow yew zinnia`
  .trim()
  .split(/\s+/)

/**
 * Draws code names, no two the same: plain things, and with a number once all of them are taken.
 * @param taken those that others have, in any case of letters
 * @param random from 0 up to 1
 */
export function drawCodeNames(count: number, taken: ReadonlySet<string>, random: () => number): string[] {
  const drawn: string[] = []
  const used = new Set([...taken].map((name) => name.toLowerCase()))
  for (let round = 1; drawn.length < count; round++) {
    const left = THINGS.map((thing) => (round === 1 ? thing : `${thing} ${round}`)).filter((name) => !used.has(name))
    while (left.length > 0 && drawn.length < count) drawn.push(...left.splice(Math.floor(random() * left.length), 1))
  }
  return drawn
}
