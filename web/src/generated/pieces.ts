// Generated from core's kinds of pieces by crates/server/tests/routes/types.rs. Do not edit.

import type { PieceKind } from "./types";

export const pieceKinds: PieceKind[] = [
  {
    "word": "wall",
    "usual": {
      "kind": "wall",
      "size": [
        4.0,
        3.0,
        0.3
      ],
      "material": "brick"
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 4.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 3.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.3,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "material",
        "of": "",
        "label": "of",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "choice",
          "options": [
            [
              "timber",
              "timber"
            ],
            [
              "brick",
              "brick"
            ],
            [
              "plaster",
              "plaster"
            ],
            [
              "concrete",
              "concrete"
            ],
            [
              "steel",
              "steel"
            ],
            [
              "dark_steel",
              "dark steel"
            ],
            [
              "glass",
              "glass"
            ],
            [
              "tram_red",
              "tram red"
            ],
            [
              "tram_cream",
              "tram cream"
            ],
            [
              "signal",
              "signal"
            ]
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "door",
    "usual": {
      "kind": "door",
      "width": 0.9,
      "height": 2.1,
      "open_deg": 0.0
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "width",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "width",
              "of": "",
              "label": "width",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.9,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "height",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.1,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "open",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "open_deg",
              "of": "",
              "label": "open",
              "unit": "°",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": -360.0,
                "max": 360.0,
                "start": 0.0,
                "step": 1.0,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "width",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "height",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.3,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "window",
    "usual": {
      "kind": "window",
      "width": 1.2,
      "height": 1.2,
      "lit": false
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "width",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "width",
              "of": "",
              "label": "width",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.2,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "height",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.2,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "lit",
        "of": "",
        "label": "lit",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "switch"
        }
      }
    ],
    "extents": [
      {
        "path": "width",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "height",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.3,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "opening",
    "usual": {
      "kind": "opening",
      "width": 1.5,
      "height": 2.1
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "width",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "width",
              "of": "",
              "label": "width",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.5,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "height",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.1,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "width",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "height",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.3,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "box",
    "usual": {
      "kind": "block",
      "size": [
        1.0,
        1.0,
        1.0
      ],
      "material": "timber"
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "material",
        "of": "",
        "label": "of",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "choice",
          "options": [
            [
              "timber",
              "timber"
            ],
            [
              "brick",
              "brick"
            ],
            [
              "plaster",
              "plaster"
            ],
            [
              "concrete",
              "concrete"
            ],
            [
              "steel",
              "steel"
            ],
            [
              "dark_steel",
              "dark steel"
            ],
            [
              "glass",
              "glass"
            ],
            [
              "tram_red",
              "tram red"
            ],
            [
              "tram_cream",
              "tram cream"
            ],
            [
              "signal",
              "signal"
            ]
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "cylinder",
    "usual": {
      "kind": "round",
      "radius": 0.3,
      "height": 0.9,
      "material": "timber"
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "radius",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "radius",
              "of": "",
              "label": "radius",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.3,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "height",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.9,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "material",
        "of": "",
        "label": "of",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "choice",
          "options": [
            [
              "timber",
              "timber"
            ],
            [
              "brick",
              "brick"
            ],
            [
              "plaster",
              "plaster"
            ],
            [
              "concrete",
              "concrete"
            ],
            [
              "steel",
              "steel"
            ],
            [
              "dark_steel",
              "dark steel"
            ],
            [
              "glass",
              "glass"
            ],
            [
              "tram_red",
              "tram red"
            ],
            [
              "tram_cream",
              "tram cream"
            ],
            [
              "signal",
              "signal"
            ]
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "radius",
        "times": 2.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "height",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "radius",
        "times": 2.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "stair",
    "usual": {
      "kind": "stair",
      "steps": 16,
      "rise": 0.18,
      "run": 0.26,
      "width": 1.2
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "steps",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "steps",
              "of": "",
              "label": "steps",
              "unit": "",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 1.0,
                "max": 200.0,
                "start": 16.0,
                "step": 1.0,
                "whole": true,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "rise",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "rise",
              "of": "",
              "label": "rise",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.18,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "run",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "run",
              "of": "",
              "label": "run",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.26,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "width",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "width",
              "of": "",
              "label": "width",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.2,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "width",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "rise",
        "times": 1.0,
        "each": [
          "steps",
          0.0
        ],
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "run",
        "times": 1.0,
        "each": [
          "steps",
          0.0
        ],
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": {
      "path": "run",
      "times": -0.5,
      "each": [
        "steps",
        0.0
      ],
      "plus": 0.0,
      "plus_of": null
    }
  },
  {
    "word": "platform",
    "usual": {
      "kind": "platform",
      "size": [
        2.0,
        0.6,
        1.0
      ]
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.6,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "ramp",
    "usual": {
      "kind": "ramp",
      "size": [
        1.2,
        0.5,
        3.0
      ]
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.2,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.5,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 3.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "pillars",
    "usual": {
      "kind": "pillars",
      "count": 1,
      "spacing": 4.0,
      "width": 0.5,
      "height": 3.0,
      "base": true
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "count",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "count",
              "of": "",
              "label": "count",
              "unit": "",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 1.0,
                "max": 200.0,
                "start": 1.0,
                "step": 1.0,
                "whole": true,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "spacing",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "spacing",
              "of": "",
              "label": "spacing",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 4.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "thickness",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "width",
              "of": "",
              "label": "thickness",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.5,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "height",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 3.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "base",
        "of": "",
        "label": "guards",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "switch"
        }
      }
    ],
    "extents": [
      {
        "path": "spacing",
        "times": 1.0,
        "each": [
          "count",
          1.0
        ],
        "plus": 0.0,
        "plus_of": "width"
      },
      {
        "path": "height",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": "width"
      }
    ],
    "middle_z": null
  },
  {
    "word": "gallery",
    "usual": {
      "kind": "gallery",
      "size": [
        6.0,
        2.88,
        2.5
      ]
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 6.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.88,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.5,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "tram rails",
    "usual": {
      "kind": "rails",
      "length": 20.0,
      "gauge": 1.435
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "length",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 20.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "gauge",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "gauge",
              "of": "",
              "label": "gauge",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.435,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "length",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      null,
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.1,
        "plus_of": "gauge"
      }
    ],
    "middle_z": null
  },
  {
    "word": "tram",
    "usual": {
      "kind": "tram",
      "length": 14.6,
      "bays": 7,
      "lit": true
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "length",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 14.6,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "bays",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "bays",
              "of": "",
              "label": "bays",
              "unit": "",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 1.0,
                "max": 200.0,
                "start": 7.0,
                "step": 1.0,
                "whole": true,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "lit",
        "of": "",
        "label": "lit",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "switch"
        }
      }
    ],
    "extents": [
      {
        "path": "length",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      null,
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 2.4,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "vehicle",
    "usual": {
      "kind": "vehicle",
      "size": [
        4.4,
        1.9,
        1.8
      ]
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 4.4,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.9,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.8,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "workbench",
    "usual": {
      "kind": "workbench",
      "length": 3.0
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "length",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 3.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "length",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      null,
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.8,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "table",
    "usual": {
      "kind": "table",
      "size": [
        1.6,
        0.75,
        0.8
      ]
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "length",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/0",
              "of": "",
              "label": "length",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.6,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/1",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.75,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "depth",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "size/2",
              "of": "",
              "label": "depth",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 0.8,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "size/0",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/1",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "size/2",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "chair",
    "usual": {
      "kind": "chair"
    },
    "params": [],
    "extents": [
      null,
      null,
      null
    ],
    "middle_z": null
  },
  {
    "word": "lamp",
    "usual": {
      "kind": "lamp",
      "cord": 1.2
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "cord",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "cord",
              "of": "",
              "label": "cord",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.2,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      null,
      null,
      null
    ],
    "middle_z": null
  },
  {
    "word": "mark",
    "usual": {
      "kind": "mark",
      "number": 1,
      "tape": "yellow"
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "number",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "number",
              "of": "",
              "label": "number",
              "unit": "",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 1.0,
                "max": 200.0,
                "start": 1.0,
                "step": 1.0,
                "whole": true,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "tape",
        "of": "",
        "label": "tape",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "choice",
          "options": [
            [
              "red",
              "red"
            ],
            [
              "yellow",
              "yellow"
            ],
            [
              "blue",
              "blue"
            ],
            [
              "green",
              "green"
            ],
            [
              "orange",
              "orange"
            ],
            [
              "white",
              "white"
            ]
          ]
        }
      }
    ],
    "extents": [
      null,
      null,
      null
    ],
    "middle_z": null
  },
  {
    "word": "card",
    "usual": {
      "kind": "card",
      "image": 0,
      "width": 2.0,
      "height": 2.0,
      "toward": null
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "width",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "width",
              "of": "",
              "label": "width",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      },
      {
        "path": "",
        "of": "",
        "label": "height",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "height",
              "of": "",
              "label": "height",
              "unit": "m",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 2.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "width",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "height",
        "times": 1.0,
        "each": null,
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": null,
        "times": 1.0,
        "each": null,
        "plus": 0.1,
        "plus_of": null
      }
    ],
    "middle_z": null
  },
  {
    "word": "mesh",
    "usual": {
      "kind": "mesh",
      "mesh": 0,
      "size": [
        1.0,
        1.0,
        1.0
      ],
      "outline": [],
      "scale": 1.0
    },
    "params": [
      {
        "path": "",
        "of": "",
        "label": "scale",
        "unit": "",
        "hint": "",
        "absent": null,
        "presets": [],
        "holds": {
          "kind": "row",
          "params": [
            {
              "path": "scale",
              "of": "",
              "label": "scale",
              "unit": "",
              "hint": "",
              "absent": null,
              "presets": [],
              "holds": {
                "kind": "number",
                "min": 0.001,
                "max": 500.0,
                "start": 1.0,
                "step": 0.05,
                "whole": false,
                "log": false
              }
            }
          ]
        }
      }
    ],
    "extents": [
      {
        "path": "scale",
        "times": 1.0,
        "each": [
          "size/0",
          0.0
        ],
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "scale",
        "times": 1.0,
        "each": [
          "size/1",
          0.0
        ],
        "plus": 0.0,
        "plus_of": null
      },
      {
        "path": "scale",
        "times": 1.0,
        "each": [
          "size/2",
          0.0
        ],
        "plus": 0.0,
        "plus_of": null
      }
    ],
    "middle_z": null
  }
];
