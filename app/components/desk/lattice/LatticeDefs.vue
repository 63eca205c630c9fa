<template>
  <defs>
    <pattern
      id="lattice-kept"
      width="7"
      height="7"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <rect width="7" height="7" fill="var(--hair)" opacity="0.6" />
      <path d="M0 0V7" stroke="var(--faint)" stroke-width="1" opacity="0.7" />
    </pattern>
    <pattern
      id="lattice-conflict"
      width="4"
      height="4"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(-45)"
    >
      <path d="M0 0V4" stroke="var(--conflict)" stroke-width="1.6" />
    </pattern>
  </defs>
</template>
