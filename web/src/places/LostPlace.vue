<template>
  <div class="p-8">
    <h1 class="text-xl">There is nothing at this address</h1>
    <p class="mt-2"><RouterLink to="/" class="text-moss underline">To the overview</RouterLink></p>
  </div>
</template>
