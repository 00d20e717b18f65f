"""Heat and cold: parts, plates, boxes and the air outside as lumps that pass heat to each other over the mission."""
