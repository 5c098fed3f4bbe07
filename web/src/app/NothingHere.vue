<template>
  <section class="sheet">
    <h1>Nothing stands here</h1>
    <p class="blank">
      This address leads nowhere in Bluestem. It may be an item or a page that was deleted, or one
      you may not see. The places above are where to go on, or find it by name.
    </p>
  </section>
</template>
