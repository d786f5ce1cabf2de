"""All tests. Only warnings are logged while they run."""

import structlog

structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(30))
