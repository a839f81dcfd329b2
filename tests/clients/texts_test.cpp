// Texts that are to have a form: ill-formed, endless, and just beside it.
#include "PACKAGE/errors.hpp"
#include "PACKAGE/light.hpp"
#include "PACKAGE/mark_call.hpp"

#include <gtest/gtest.h>

#include <string>

using namespace PACKAGE;

static const std::string site = "https://port-varrow.example/";

static bool is_sign(const std::string &text) {
    try {
        return MarkCall(text, site).sign() == text;
    } catch (const LimitError &error) {
        return error.limit() != "pattern";
    }
}

static bool is_name(const std::string &text) {
    try {
        return Fixed(text).name() == text;
    } catch (const LimitError &error) {
        return error.limit() != "pattern";
    }
}

TEST(Texts, what_is_no_utf_8_is_refused_or_taken_for_one_character) {
    for (const char *text : {"A\xff", "A\xc3", "A\xe2\x82", "A\xf0\x9f\x9b", "A\x80\x80"}) {
        EXPECT_FALSE(is_sign(text + std::string("BC")));
        EXPECT_TRUE(is_name(text)) << "each is a character of some kind";
    }
    EXPECT_FALSE(is_name("\xff"));
}

TEST(Texts, each_character_counts_once) {
    EXPECT_TRUE(is_name("\xc3\x84\xf0\x9f\x9b\x9f")); // two code points of two and four bytes
    EXPECT_FALSE(is_sign("\xef\xbc\xa1\xef\xbc\xa2\xef\xbc\xa3")); // letters of full width
    EXPECT_FALSE(is_sign(std::string("ABC\0", 4)));
    EXPECT_FALSE(is_sign("ABC\n"));
    EXPECT_TRUE(is_sign("ABC"));
}

TEST(Texts, a_long_text_is_looked_at_once) {
    EXPECT_FALSE(is_name("A" + std::string(10'000'000, 'a') + "\n"));
}
