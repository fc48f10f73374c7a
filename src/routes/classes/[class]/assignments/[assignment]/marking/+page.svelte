<!-- Whoever comes here is led on to a copy. -->
