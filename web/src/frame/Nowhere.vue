<template>
  <div class="page narrow">
    <h1>There is nothing at this address</h1>
    <p class="prose">The link may be cut short, or what it led to was removed. <router-link to="/">To the shelf</router-link></p>
  </div>
</template>
