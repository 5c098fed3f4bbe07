<template>
  <div class="row key quiet">
    <span><i class="swatch used" /> allowed, darker the more it is used</span
    ><span><i class="swatch happened" /> not allowed, yet it happened</span
    ><span><i class="swatch allows" /> this draft allows</span
    ><span><i class="swatch forbids" /> this draft forbids</span>
  </div>
</template>

<style scoped>
.key {
  font-size: 12.5px;
  gap: 16px;
  margin: 10px 0 12px;
  flex-wrap: wrap;
}
.swatch {
  display: inline-block;
  width: 13px;
  height: 11px;
  vertical-align: -1px;
  margin-right: 4px;
  border: 1px solid var(--rule);
}
.used {
  background: color-mix(in srgb, var(--stem) 50%, transparent);
}
.happened {
  background: repeating-linear-gradient(135deg, var(--russet-wash) 0 3px, transparent 3px 6px);
}
.allows {
  border: 2px solid var(--leaf);
}
.forbids {
  border: 2px solid var(--russet);
}
</style>
