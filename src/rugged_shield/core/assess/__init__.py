"""The rules of each station applied to a whole job, room by room; import the rooms."""
