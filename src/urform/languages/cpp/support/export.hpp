#pragma once

// What a shared library shows whose other symbols are hidden. Who uses a static one on Windows defines LIBRARY_STATIC.
#if defined(_WIN32) && !defined(LIBRARY_STATIC)
#if defined(LIBRARY_BUILDS)
#define EXPORTED __declspec(dllexport)
#else
#define EXPORTED __declspec(dllimport)
#endif
#elif defined(__GNUC__)
#define EXPORTED __attribute__((visibility("default")))
#else
#define EXPORTED
#endif
