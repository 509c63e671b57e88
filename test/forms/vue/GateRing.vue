<template>
  <form action="/gate" method="post">
    <label for="who">Who is there</label>
    <input id="who" name="who" required maxlength="40">
    <select name="gate"><option>North</option><option>South</option></select>
    <input type="hidden" name="token" value="1">
    <button name="ring">Ring</button>
  </form>
</template>
